/** Two lists side by side, by keys: what stands in both, and what only one has. */
import { diffLines } from '../moment/markup.ts';

/** Places in the two lists; null where only the other list has something. */
export type Aligned = { before: number | null; now: number | null };

/** The places of the keys that a stretch of a list has once. */
function once(keys: readonly string[], from: number, to: number): Map<string, number> {
  const found = new Map<string, number>();
  const twice = new Set<string>();
  for (let i = from; i < to; i++) {
    if (found.has(keys[i]!)) twice.add(keys[i]!);
    found.set(keys[i]!, i);
  }
  for (const key of twice) found.delete(key);
  return found;
}

/** The longest run of pairs that both lists have in one order (patience sorting). */
export function longestRun(pairs: readonly (readonly [number, number])[]): [number, number][] {
  const tops: number[] = [];
  const previous: number[] = [];
  pairs.forEach(([, now], at) => {
    let low = 0;
    let high = tops.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (pairs[tops[middle]!]![1] < now) low = middle + 1;
      else high = middle;
    }
    previous[at] = low > 0 ? tops[low - 1]! : -1;
    tops[low] = at;
  });
  const run: [number, number][] = [];
  for (let at = tops.at(-1) ?? -1; at >= 0; at = previous[at]!) run.push([...pairs[at]!] as [number, number]);
  return run.reverse();
}

/**
 * Aligns two lists by their keys: equal ends first, then what both have once, and a shortest edit script (Myers 1986)
 * for what is left between.
 */
export function alignKeys(before: readonly string[], now: readonly string[]): Aligned[] {
  const aligned: Aligned[] = [];
  const same = (i: number, j: number): void => void aligned.push({ before: i, now: j });
  const gap = (from: number, to: number, start: number, end: number): void => {
    let [a, b, c, d] = [from, to, start, end];
    while (a < b && c < d && before[a] === now[c]) same(a++, c++);
    const tail: [number, number][] = [];
    while (a < b && c < d && before[b - 1] === now[d - 1]) tail.push([--b, --d]);
    if (a < b || c < d) between(a, b, c, d);
    for (const [i, j] of tail.reverse()) same(i, j);
  };
  const between = (a: number, b: number, c: number, d: number): void => {
    const others = once(now, c, d);
    const pairs = [...once(before, a, b)]
      .filter(([key]) => others.has(key))
      .map(([key, i]): [number, number] => [i, others.get(key)!])
      .sort(([i], [j]) => i - j);
    const anchors = longestRun(pairs);
    if (anchors.length === 0) {
      edits(a, b, c, d);
      return;
    }
    let [i, j] = [a, c];
    for (const [at, there] of anchors) {
      gap(i, at, j, there);
      same(at, there);
      [i, j] = [at + 1, there + 1];
    }
    gap(i, b, j, d);
  };
  const edits = (a: number, b: number, c: number, d: number): void => {
    const changes = a < b && c < d ? diffLines(before.slice(a, b), now.slice(c, d)) : null;
    const lost = new Set(changes?.filter(({ side }) => side === 'baseline').map(({ line }) => a + line - 1));
    const added = new Set(changes?.filter(({ side }) => side === 'now').map(({ line }) => c + line - 1));
    let j = c;
    for (let i = a; i < b; i++) {
      if (changes === null || lost.has(i)) aligned.push({ before: i, now: null });
      else {
        for (; added.has(j); j++) aligned.push({ before: null, now: j });
        same(i, j++);
      }
    }
    for (; j < d; j++) aligned.push({ before: null, now: j });
  };
  gap(0, before.length, 0, now.length);
  return aligned;
}
