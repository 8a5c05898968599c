/** What elements of a drawn document look like by their computed styles, and which declarations these come from. */
import type { StyleChange, Winner } from '../core/cause/effect.ts';
import type { Wanted } from '../core/cause/explain.ts';
import { type Cascade, cascadeOf, winnersOf } from './cascade.ts';
import type { Drawing } from './drawing.ts';
import { foundBy } from './measure.ts';

/** An element, or what stands before or after its content. */
type Part = { element: Element; pseudo: string | null };

/** Longhands that say the same as others, or follow from them. */
const derived = /^-|(^|-)(inline|block)(-|$)|-(start|end)-(start|end)-|^(perspective|transform)-origin$/;

/** The computed values of a part, by property. */
function computed({ element, pseudo }: Part): Map<string, string> {
  const view = element.ownerDocument.defaultView;
  const style = view?.getComputedStyle(element, pseudo === null ? null : `::${pseudo}`);
  const values = new Map<string, string>();
  for (const name of style ?? []) if (!derived.test(name)) values.set(name, style!.getPropertyValue(name));
  return values;
}

/** The properties that have other values. */
const changedBetween = (before: ReadonlyMap<string, string>, now: ReadonlyMap<string, string>): string[] =>
  [...now.keys()].filter((name) => before.has(name) && before.get(name) !== now.get(name));

/** Finds winners, reading the rules of each document and shadow root once. */
function winnerFinder(own: CSSStyleSheet | null) {
  const known = new Map<Node, Cascade>();
  return ({ element, pseudo }: Part, properties: readonly string[]): Map<string, Winner | null> => {
    const root = element.getRootNode() as Document | ShadowRoot;
    if (!('adoptedStyleSheets' in root)) return new Map();
    const cascade = known.get(root) ?? cascadeOf(root, own);
    known.set(root, cascade);
    return winnersOf(element, pseudo, properties, cascade);
  };
}

/** Values and winners of both sides, put together. */
const asChanges = (
  properties: readonly string[],
  values: { before: ReadonlyMap<string, string>; now: ReadonlyMap<string, string> },
  winners: { before: ReadonlyMap<string, Winner | null>; now: ReadonlyMap<string, Winner | null> },
): StyleChange[] =>
  properties.map((property) => ({
    property,
    before: values.before.get(property)!,
    now: values.now.get(property)!,
    wasBy: winners.before.get(property) ?? null,
    by: winners.now.get(property) ?? null,
  }));

/** The styles of so many elements are read. */
const mostParts = 12;

type Meant = { id: number; pseudo: string | null };

/** The elements that are meant, by their numbers, and whether what stands before or after them is. */
function meantIn(drawing: Drawing, { nodes, selectors }: Wanted): Map<string, Meant> {
  const numbers = drawing.numbers();
  const found = new Map<string, Meant>();
  const add = (id: number | undefined, pseudo: string | null): void => {
    if (id !== undefined && found.size < mostParts) found.set(`${id} ${pseudo}`, { id, pseudo });
  };
  for (const id of nodes) if (drawing.elementOf(id)) add(id, null);
  for (const selector of selectors) {
    const [, pseudo = null] = /::?(before|after)\s*(,|$)/.exec(selector) ?? [];
    for (const element of foundBy(drawing.document, [selector])) add(numbers.get(element), pseudo);
  }
  return found;
}

/** In which computed values the elements that are meant differ between two moments of a drawing. */
export function styleChangesIn(drawing: Drawing, before: number, now: number, wanted: Wanted): StyleChange[] {
  drawing.show(now);
  const meant = meantIn(drawing, wanted);
  drawing.show(before);
  for (const [key, part] of meantIn(drawing, wanted)) meant.set(key, part);
  const parts = [...meant.values()].slice(0, mostParts);
  const partOf = ({ id, pseudo }: Meant): Part | null => {
    const element = drawing.elementOf(id);
    return element && { element, pseudo };
  };
  const read = (): (Map<string, string> | null)[] =>
    parts.map((one) => {
      const part = partOf(one);
      return part && computed(part);
    });
  const was = read();
  drawing.show(now);
  const is = read();
  const changed = parts.map((_, i) => (was[i] && is[i] ? changedBetween(was[i], is[i]) : []));
  const won = (): Map<string, Winner | null>[] => {
    const find = winnerFinder(drawing.ownSheet);
    return parts.map((one, i) => (changed[i]!.length > 0 ? find(partOf(one)!, changed[i]!) : new Map()));
  };
  const by = won();
  drawing.show(before);
  const wasBy = won();
  return parts.flatMap((_, i) =>
    asChanges(changed[i]!, { before: was[i]!, now: is[i]! }, { before: wasBy[i]!, now: by[i]! }),
  );
}
