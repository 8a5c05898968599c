/** Findings that were made before of an equal page: what has not changed is not looked at again. */
import { canonicalise } from '../core/moment/canonical.ts';
import type { Moment } from '../core/moment/moment.ts';
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
  /** What the page shows: findings of markup and styles, contrasts, and whether the focus can be seen. */
  page: { key: string; findings: Finding[] | null };
  /** Where Tab leads in it. */
  keyboard: { key: string; findings: Finding[] | null };
};

/** What was found on a page now; null for what was not looked for. */
type Found = { page: Finding[] | null; keyboard: Finding[] | null };

/** Looks for what was found before of a moment; `assets` are hashes by address. */
export function recall({ memory, rules, code }: Ground, moment: Moment, assets: Record<string, string>): Recalled {
  const shown = JSON.stringify(canonicalise(moment, { hash: hashOf, assets }));
  const page = hashOf(JSON.stringify(['page', rules, hashOf(shown)]));
  const keyboard = hashOf(JSON.stringify(['keyboard', page, code]));
  return {
    ids: idsInOrder(moment),
    page: { key: page, findings: memory.get(page) },
    keyboard: { key: keyboard, findings: memory.get(keyboard) },
  };
}

/** Keeps what was found at the end of a look for pages that show the same. */
export function remember({ memory }: Pick<Ground, 'memory'>, { ids, page, keyboard }: Recalled, now: Found): void {
  const places = new Map(ids.map((id, place) => [id, place]));
  const placed = (one: Finding): Finding => ({
    ...one,
    node: one.node === null ? null : (places.get(one.node) ?? null),
  });
  // What Tab shows belongs to both: without it the page was not looked at as a whole.
  if (now.page && now.keyboard && !page.findings) memory.put(page.key, now.page.map(placed));
  if (now.keyboard && !keyboard.findings) memory.put(keyboard.key, now.keyboard.map(placed));
}

/** What was found on an equal page, on this one, after a step. */
export const asFound = (known: readonly Finding[] | null, { ids }: Recalled, step: number): Finding[] =>
  (known ?? []).map((one) => ({ ...one, node: one.node === null ? null : (ids[one.node] ?? null), step }));
