/**
 * Which element of one moment is which of another: equal subtrees first, then what carries a name of its own, then what
 * is most alike in its place; what is left is looked for elsewhere in the document.
 */
import { type ElementEntry, isText, type NodeEntry } from '../moment/moment.ts';
import { longestRun } from '../list/align.ts';
import { kidsOf, type Tree } from './tree.ts';

/** Nodes of the later moment by those of the earlier one, and back. */
export type Matching = { now: Map<number, number>; before: Map<number, number> };

type Pairing = Matching & { a: Tree; b: Tree; bags: Map<string, ReadonlySet<number>> };

/** Attributes by which people and programs tell elements apart. */
const naming = ['id', 'data-testid', 'data-test', 'data-key', 'name', 'key'];

/** A name that an element carries, or null. */
function nameOf(entry: NodeEntry, { own }: Tree, id: number): string | null {
  if (isText(entry)) return null;
  const { tag, attrs = {} } = entry;
  const given = naming.find((name) => attrs[name] !== undefined && !/[\d‹]/.test(attrs[name]!));
  if (given) return `${tag} ${given}=${attrs[given]}`;
  const label = attrs['aria-label'] ?? attrs.alt ?? attrs.title;
  return label === undefined ? null : `${own.get(id)} ${label}`;
}

/** The ids whose key no other of the list has, by that key. */
function unique(
  ids: readonly number[],
  keyOf: (id: number) => string | number | null | undefined,
): Map<unknown, number> {
  const found = new Map<unknown, number>();
  const twice = new Set<unknown>();
  for (const id of ids) {
    const key = keyOf(id);
    if (key == null) continue;
    if (found.has(key)) twice.add(key);
    found.set(key, id);
  }
  for (const key of twice) found.delete(key);
  return found;
}

/** So many nodes of an element say enough of what it holds. */
const largestBag = 60;

function bagOf(which: 'a' | 'b', id: number, { a, b, bags }: Pairing): ReadonlySet<number> {
  const key = which + id;
  const known = bags.get(key);
  if (known) return known;
  const { moment, own } = which === 'a' ? a : b;
  const bag = new Set<number>();
  const left = [id];
  for (let one = left.shift(); one !== undefined && bag.size < largestBag; one = left.shift()) {
    bag.add(own.get(one) ?? -1);
    const entry = moment.nodes[one];
    if (entry && !isText(entry)) left.push(...(entry.shadow?.kids ?? []), ...(entry.kids ?? []));
  }
  bags.set(key, bag);
  return bag;
}

const words = (text: string): Set<string> => new Set(text.toLowerCase().match(/[\p{L}\p{N}]+/gu));

function overlap<T>(one: ReadonlySet<T>, other: ReadonlySet<T>): number {
  let shared = 0;
  for (const item of one) if (other.has(item)) shared++;
  return (2 * shared) / Math.max(1, one.size + other.size);
}

/** True when one of the two holds the other as it is: then it was put around it. */
function isAround(x: number, y: number, { a, b }: Pairing): boolean {
  const holds = (tree: Tree, id: number, whole: number | undefined): boolean => {
    const entry = tree.moment.nodes[id];
    return !!entry && !isText(entry) && (entry.kids ?? []).some((kid) => tree.whole.get(kid) === whole);
  };
  return holds(b, y, a.whole.get(x)) || holds(a, x, b.whole.get(y));
}

/** Names of attributes, and classes. */
const attributesOf = ({ attrs = {} }: ElementEntry): Set<string> =>
  new Set([...Object.keys(attrs), ...(attrs.class ?? '').split(/\s+/).map((name) => `.${name}`)]);

/** How much alike two nodes are, from 0 to 2; 0 for what is not the same node. */
function likeness(x: number, y: number, pairing: Pairing): number {
  const { a, b } = pairing;
  const [before, now] = [a.moment.nodes[x]!, b.moment.nodes[y]!];
  if (isText(before) || isText(now))
    return isText(before) && isText(now) ? 0.3 + overlap(words(before.text), words(now.text)) : 0;
  if (before.tag !== now.tag || before.ns !== now.ns) return 0;
  if (before.sheet !== undefined) return 0.5;
  const isSame = a.own.get(x) === b.own.get(y);
  if (!isSame && isAround(x, y, pairing)) return 0;
  const inside = overlap(bagOf('a', x, pairing), bagOf('b', y, pairing));
  const shared = overlap(attributesOf(before), attributesOf(now));
  const isLeaf = kidsOf(before).length === 0 && kidsOf(now).length === 0;
  const score = inside + (isSame ? 0.6 : 0) + shared * 0.4 + (isLeaf ? 0.2 : 0);
  return score >= 0.25 ? score : 0;
}

/** Larger gaps than this are not searched for the best pairs, but gone through once. */
const largestSearch = 40_000;

/** The best pairs of two stretches of children, both in order. */
function bestPairs(left: readonly number[], right: readonly number[], pairing: Pairing): [number, number][] {
  if (left.length * right.length > largestSearch) return inOrder(left, right, pairing);
  const width = right.length + 1;
  const best = new Float64Array((left.length + 1) * width);
  const scores = new Float64Array(left.length * right.length);
  for (let i = left.length - 1; i >= 0; i--)
    for (let j = right.length - 1; j >= 0; j--) {
      const score = likeness(left[i]!, right[j]!, pairing);
      scores[i * right.length + j] = score;
      const paired = score > 0 ? score + best[(i + 1) * width + j + 1]! : 0;
      best[i * width + j] = Math.max(paired, best[(i + 1) * width + j]!, best[i * width + j + 1]!);
    }
  const pairs: [number, number][] = [];
  for (let i = 0, j = 0; i < left.length && j < right.length; ) {
    const score = scores[i * right.length + j]!;
    const value = best[i * width + j]!;
    if (score > 0 && value === score + best[(i + 1) * width + j + 1]!) pairs.push([left[i++]!, right[j++]!]);
    else if (value === best[(i + 1) * width + j]) i++;
    else j++;
  }
  return pairs;
}

/** Each with the next that is the same by itself. */
function inOrder(left: readonly number[], right: readonly number[], { a, b }: Pairing): [number, number][] {
  const waiting = new Map<number | undefined, number[]>();
  for (const y of right) waiting.set(b.own.get(y), [...(waiting.get(b.own.get(y)) ?? []), y]);
  return left.flatMap((x) => {
    const y = waiting.get(a.own.get(x))?.shift();
    return y === undefined ? [] : [[x, y] as [number, number]];
  });
}

function pair(x: number, y: number, { now, before }: Matching): void {
  now.set(x, y);
  before.set(y, x);
}

/** Pairs two equal subtrees, node by node. */
function pairWhole(x: number, y: number, pairing: Pairing): void {
  const left: [number, number][] = [[x, y]];
  for (let next = left.pop(); next; next = left.pop()) {
    const [one, other] = next;
    pair(one, other, pairing);
    const [before, now] = [pairing.a.moment.nodes[one]!, pairing.b.moment.nodes[other]!];
    if (isText(before) || isText(now)) continue;
    const others = kidsOf(now);
    for (const [i, kid] of kidsOf(before).entries()) left.push([kid, others[i]!]);
  }
}

/** Pairs two nodes, and what they hold. */
function pairNodes(x: number, y: number, pairing: Pairing, later: [number, number][]): void {
  if (pairing.a.whole.get(x) === pairing.b.whole.get(y)) pairWhole(x, y, pairing);
  else {
    pair(x, y, pairing);
    later.push([x, y]);
  }
}

/** Pairs children of two elements that are the same one. */
function pairKids(xs: readonly number[], ys: readonly number[], pairing: Pairing, later: [number, number][]): void {
  const { a, b, now, before } = pairing;
  const isFree = { x: (id: number) => !now.has(id), y: (id: number) => !before.has(id) };
  const found: [number, number][] = [];
  const take = (keyA: (id: number) => string | number | null | undefined, keyB: typeof keyA): void => {
    const others = unique(ys.filter(isFree.y), keyB);
    for (const [key, x] of unique(xs.filter(isFree.x), keyA)) {
      const y = others.get(key);
      if (y === undefined) continue;
      found.push([x, y]);
      pairNodes(x, y, pairing, later);
    }
  };
  take(
    (id) => a.whole.get(id),
    (id) => b.whole.get(id),
  );
  take(
    (id) => nameOf(a.moment.nodes[id]!, a, id),
    (id) => nameOf(b.moment.nodes[id]!, b, id),
  );
  const places = { x: new Map(xs.map((id, i) => [id, i])), y: new Map(ys.map((id, i) => [id, i])) };
  const run = longestRun(
    found.map(([x, y]): [number, number] => [places.x.get(x)!, places.y.get(y)!]).sort(([one], [other]) => one - other),
  );
  let [i, j] = [0, 0];
  for (const [at, there] of [...run, [xs.length, ys.length] as const]) {
    const [left, right] = [xs.slice(i, at).filter(isFree.x), ys.slice(j, there).filter(isFree.y)];
    if (left.length > 0 && right.length > 0)
      for (const [x, y] of bestPairs(left, right, pairing)) pairNodes(x, y, pairing, later);
    [i, j] = [at + 1, there + 1];
  }
  const [left, right] = [xs.filter(isFree.x), ys.filter(isFree.y)];
  for (const [x, y] of outOfOrder(left, right, pairing)) pairNodes(x, y, pairing, later);
}

/** From this on two elements are the same one although it stands elsewhere. */
const surelyAlike = 0.9;

/** What is left of children, each with the one that is most like it, wherever that stands. */
function outOfOrder(xs: readonly number[], ys: readonly number[], pairing: Pairing): [number, number][] {
  if (xs.length * ys.length > largestSearch) return [];
  const all = xs.flatMap((x) => ys.map((y) => ({ x, y, score: likeness(x, y, pairing) })));
  const taken = new Set<number>();
  return all
    .filter(({ x, score }) => score >= surelyAlike && !isText(pairing.a.moment.nodes[x]!))
    .sort((one, other) => other.score - one.score)
    .flatMap(({ x, y }) => {
      if (taken.has(x) || taken.has(-y)) return [];
      taken.add(x).add(-y);
      return [[x, y] as [number, number]];
    });
}

/** Smaller subtrees are too common to be known again elsewhere. */
const smallestMoved = 2;

/** Pairs what was taken away in one place and is there again in another one. */
function pairMoved(pairing: Pairing, later: [number, number][]): void {
  const { a, b, now, before } = pairing;
  const isBig = (tree: Tree, id: number): boolean => tree.sizes.get(id)! >= smallestMoved;
  const others = unique(
    b.order.filter((id) => !before.has(id) && isBig(b, id)),
    (id) => b.whole.get(id),
  );
  const mine = unique(
    a.order.filter((id) => !now.has(id) && isBig(a, id)),
    (id) => a.whole.get(id),
  );
  for (const [key, x] of mine) {
    const y = others.get(key);
    if (y !== undefined && !now.has(x) && !before.has(y)) pairNodes(x, y, pairing, later);
  }
}

/** Matches two moments. */
export function match(a: Tree, b: Tree): Matching {
  const pairing: Pairing = { a, b, now: new Map(), before: new Map(), bags: new Map() };
  const later: [number, number][] = [];
  const work = (): void => {
    for (let next = later.pop(); next; next = later.pop()) {
      const [before, now] = [a.moment.nodes[next[0]]!, b.moment.nodes[next[1]]!];
      if (isText(before) || isText(now)) continue;
      pairKids(before.kids ?? [], now.kids ?? [], pairing, later);
      pairKids(before.shadow?.kids ?? [], now.shadow?.kids ?? [], pairing, later);
      const [one, other] = [before.frame?.kid, now.frame?.kid];
      if (one != null && other != null) pairNodes(one, other, pairing, later);
    }
  };
  pairNodes(a.moment.root, b.moment.root, pairing, later);
  work();
  pairMoved(pairing, later);
  work();
  return pairing;
}
