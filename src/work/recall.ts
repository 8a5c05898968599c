/** Findings that were made before of an equal page: what has not changed is not looked at again. */
import { canonicalise } from '../core/moment/canonical.ts';
import { isText, type Moment } from '../core/moment/moment.ts';
import { idsInOrder } from '../core/moment/order.ts';
import type { Finding } from '../core/accessibility/finding.ts';
import { hashOf } from './assets.ts';

/** Findings by keys, kept from run to run. */
export type FindingMemory = {
  get(key: string): Finding[] | null;
  put(key: string, findings: readonly Finding[]): void;
};

/** What findings depend on beside the page as it is shown. */
export type Ground = {
  memory: FindingMemory;
  /** The browser with the environment, and our own code. */
  rules: string;
  /** The code of the look, and its name: pages that are equal may still take keys differently. */
  code: string;
};

/** What is known of a page at the end of a look. Findings name nodes by their places among `ids`. */
export type Recalled = {
  /** The nodes of its moment in the order of the document. */
  ids: number[];
  /** What the page shows: findings of markup and styles, and contrasts. */
  page: Remembered;
  /** Empty where everything shows by its style that it has the focus: then no script has to. */
  focus: Remembered;
  /** What Tab does in it. */
  keyboard: Remembered;
};

type Remembered = { key: string; findings: Finding[] | null };

/** What was found on a page now; null for what was not looked for. */
type Found = { page: Finding[] | null; keyboard: Finding[] | null; stylesFocus: boolean | null };

/** Titles, which no picture shows and assistive technology reads out, with their places. */
function titlesIn({ nodes }: Moment, ids: readonly number[]): [number, string][] {
  const textOf = (id: number): string => {
    const node = nodes[id];
    return node && isText(node) ? node.text : '';
  };
  return ids.flatMap((id, place): [number, string][] => {
    const node = nodes[id]!;
    return isText(node) || node.tag !== 'title' ? [] : [[place, (node.kids ?? []).map(textOf).join('')]];
  });
}

/** Looks for what was found before of a moment; `assets` are hashes by address, `beside` is not in the moment. */
export function recall(
  { memory, rules, code }: Ground,
  moment: Moment,
  assets: Record<string, string>,
  beside: string,
): Recalled {
  const shown = JSON.stringify(canonicalise(moment, { hash: hashOf, assets }));
  const ids = idsInOrder(moment);
  const remembered = (...parts: string[]): Remembered => {
    const key = hashOf(JSON.stringify(parts));
    return { key, findings: memory.get(key) };
  };
  const page = remembered('page', rules, hashOf(shown), JSON.stringify(titlesIn(moment, ids)), beside);
  return { ids, page, focus: remembered('focus', page.key), keyboard: remembered('keyboard', page.key, code) };
}

/** Keeps what was found at the end of a look for pages that show the same. */
export function remember(
  { memory }: Pick<Ground, 'memory'>,
  { ids, page, focus, keyboard }: Recalled,
  now: Found,
): void {
  const places = new Map(ids.map((id, place) => [id, place]));
  const placed = (one: Finding): Finding => ({
    ...one,
    node: one.node === null ? null : (places.get(one.node) ?? null),
  });
  if (now.stylesFocus && !focus.findings) memory.put(focus.key, []);
  if (now.page && !page.findings) memory.put(page.key, now.page.map(placed));
  if (now.keyboard && !keyboard.findings) memory.put(keyboard.key, now.keyboard.map(placed));
}

/** What was found on an equal page, on this one, after a step. */
export const asFound = (known: readonly Finding[] | null, { ids }: Recalled, step: number): Finding[] =>
  (known ?? []).map((one) => ({ ...one, node: one.node === null ? null : (ids[one.node] ?? null), step }));
