/** How often the places of sources were run, as an engine's counts of a script tell. */

/** A part of a script, in UTF-16 offsets, and how often it was run; parts of parts count for themselves. */
export type CountedRange = { startOffset: number; endOffset: number; count: number };

/** What a page has run of one script. A function's own range comes first, then those of its blocks. */
export type CoveredScript = { path: string; functions: { ranges: CountedRange[] }[] };

/** What of one source was run: flat pairs of a probe's number and a count, in ascending order. */
export type SourceHits = { path: string; hash: string; hits: number[] };

/** What a look has run of the project's sources, and what was run before it, when its files were loaded. */
export type LookCoverage = { own: SourceHits[]; loading: SourceHits[] };

/**
 * How often the code at each of some offsets, which ascend, was run: what the innermost range around it says, or
 * nothing.
 */
export function countsAt(functions: CoveredScript['functions'], offsets: ArrayLike<number>): Float64Array {
  const ranges = functions.flatMap((one) => one.ranges);
  ranges.sort((a, b) => a.startOffset - b.startOffset || b.endOffset - a.endOffset);
  const counts = new Float64Array(offsets.length);
  const open: CountedRange[] = [];
  let next = 0;
  for (let i = 0; i < offsets.length; i++) {
    const at = offsets[i]!;
    for (; next < ranges.length && ranges[next]!.startOffset <= at; next++) {
      while (open.length > 0 && open.at(-1)!.endOffset <= ranges[next]!.startOffset) open.pop();
      open.push(ranges[next]!);
    }
    while (open.length > 0 && open.at(-1)!.endOffset <= at) open.pop();
    counts[i] = open.at(-1)?.count ?? 0;
  }
  return counts;
}

/** Pairs as a list with a count for every probe. */
export function allHits(pairs: readonly number[], probes: number): number[] {
  const hits = new Array<number>(probes).fill(0);
  for (let i = 0; i + 1 < pairs.length; i += 2) if (pairs[i]! < probes) hits[pairs[i]!] = pairs[i + 1]!;
  return hits;
}
