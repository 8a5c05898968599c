/** Two versions of a style sheet as one, in which each difference can be chosen or left out. */
import { alignKeys } from '../list/align.ts';
import { type Item, parseSheet, type Rule, writeItem } from './css.ts';

/** What differs in a sheet: a declaration, a whole rule, or the selector or condition of one. */
export type SheetDifference = {
  what: 'declaration' | 'rule' | 'selector';
  /** Conditions and selectors around it, from the outermost on; for a rule with its own. */
  within: string[];
  /** The property of a declaration. */
  property: string | null;
  before: string | null;
  now: string | null;
};

/** A sheet with choices in it; `edit` is the number of a difference. */
export type Merged =
  | { kind: 'stays'; text: string }
  | { kind: 'differs'; edit: number; before: string | null; now: string | null }
  | { kind: 'rule'; prelude: { edit: number | null; before: string; now: string }; items: Merged[] };

/** Takes a difference in, and gives its number. */
export type Note = (difference: SheetDifference) => number;

const keyOf = (item: Item): string => {
  if (item.kind === 'declaration') return `d${item.property}`;
  return item.kind === 'rule' ? `r${item.prelude}` : `s${item.text}`;
};

const isRule = (item: Item): item is Rule => item.kind === 'rule';

/** `@media` of `@media (min-width: 600px)`; `a rule` for one with a selector. */
const sortOf = ({ prelude }: Rule): string => /^@[\w-]+/.exec(prelude)?.[0] ?? 'a rule';

/** How much two rules have in common, from 0 to 1. */
function likeness(one: Rule, other: Rule): number {
  if (sortOf(one) !== sortOf(other)) return 0;
  const all = new Set(one.items.map(writeItem));
  const shared = other.items.filter((item) => all.has(writeItem(item))).length;
  return (2 * shared) / Math.max(1, one.items.length + other.items.length);
}

/** From this on two rules of other names are one whose name has changed. */
const alike = 0.6;

/** Rules that stand in the same place of both versions under other selectors or conditions. */
function renamed(lost: readonly Item[], added: readonly Item[]): Map<Item, Rule> {
  const found = new Map<Item, Rule>();
  const left = new Set(added.filter(isRule));
  for (const rule of lost.filter(isRule)) {
    const [best] = [...left].map((one) => [one, likeness(rule, one)] as const).sort((a, b) => b[1] - a[1]);
    if (!best || best[1] < alike) continue;
    found.set(rule, best[0]);
    left.delete(best[0]);
  }
  return found;
}

/** What a declaration or rule that only one version has is told as. */
function alone(item: Item, within: string[], isNow: boolean): SheetDifference {
  const what = item.kind === 'declaration' ? 'declaration' : 'rule';
  const text = item.kind === 'declaration' ? item.value : writeItem(item);
  return {
    what,
    within: item.kind === 'rule' ? [...within, item.prelude] : within,
    property: item.kind === 'declaration' ? item.property : null,
    before: isNow ? null : text,
    now: isNow ? text : null,
  };
}

function mergePair(before: Item, now: Item, within: string[], note: Note): Merged {
  if (isRule(before) && isRule(now)) {
    const isNew = before.prelude !== now.prelude;
    const change = { what: 'selector', within, property: null, before: before.prelude, now: now.prelude } as const;
    const edit = isNew ? note(change) : null;
    const items = mergeItems(before.items, now.items, [...within, before.prelude], note);
    return { kind: 'rule', prelude: { edit, before: before.prelude, now: now.prelude }, items };
  }
  const [was, is] = [writeItem(before), writeItem(now)];
  if (was === is || before.kind !== 'declaration' || now.kind !== 'declaration') return { kind: 'stays', text: was };
  const { property } = before;
  const edit = note({ what: 'declaration', within, property, before: before.value, now: now.value });
  return { kind: 'differs', edit, before: was, now: is };
}

function mergeItems(before: readonly Item[], now: readonly Item[], within: string[], note: Note): Merged[] {
  const aligned = alignKeys(before.map(keyOf), now.map(keyOf));
  const merged: Merged[] = [];
  for (let at = 0; at < aligned.length; at++) {
    const { before: i, now: j } = aligned[at]!;
    if (i !== null && j !== null) {
      merged.push(mergePair(before[i]!, now[j]!, within, note));
      continue;
    }
    let end = at;
    while (end < aligned.length && (aligned[end]!.before === null || aligned[end]!.now === null)) end++;
    const gap = aligned.slice(at, end);
    const pairs = renamed(
      gap.flatMap((one) => (one.before === null ? [] : [before[one.before]!])),
      gap.flatMap((one) => (one.now === null ? [] : [now[one.now]!])),
    );
    const taken = new Set<Item>(pairs.values());
    for (const one of gap) {
      const item = one.before === null ? now[one.now!]! : before[one.before]!;
      const isNow = one.before === null;
      const other = pairs.get(item);
      if (other) merged.push(mergePair(item, other, within, note));
      else if (!taken.has(item)) {
        const text = writeItem(item);
        const edit = note(alone(item, within, isNow));
        merged.push({ kind: 'differs', edit, before: isNow ? null : text, now: isNow ? text : null });
      }
    }
    at = end - 1;
  }
  return merged;
}

/** Merges two versions of a sheet; `note` is told each difference. */
export const mergeSheets = (before: string, now: string, note: Note): Merged[] =>
  mergeItems(parseSheet(before), parseSheet(now), [], note);

/** The sheet with the differences that are chosen, and without the others. */
export function writeMerged(items: readonly Merged[], isChosen: (edit: number) => boolean): string {
  const lines: string[] = [];
  for (const item of items) {
    if (item.kind === 'stays') lines.push(item.text);
    else if (item.kind === 'differs') {
      const text = isChosen(item.edit) ? item.now : item.before;
      if (text !== null) lines.push(text);
    } else {
      const { edit, before, now } = item.prelude;
      lines.push(`${edit !== null && isChosen(edit) ? now : before} {`, writeMerged(item.items, isChosen), '}');
    }
  }
  return lines.join('\n');
}
