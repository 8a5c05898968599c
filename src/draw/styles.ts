/** What elements of a drawn document look like by their computed styles, and which declarations these come from. */
import type { StyleChange, Winner } from '../core/cause/effect.ts';
import { type Cascade, cascadeOf, winnersOf } from './cascade.ts';

/** An element, or what stands before or after its content. */
export type Part = { element: Element; pseudo: string | null };

/** Longhands that say the same as others, or follow from them. */
const derived = /^-|(^|-)(inline|block)(-|$)|-(start|end)-(start|end)-|^(perspective|transform)-origin$/;

/** The computed values of a part, by property. */
export function computed({ element, pseudo }: Part): Map<string, string> {
  const view = element.ownerDocument.defaultView;
  const style = view?.getComputedStyle(element, pseudo === null ? null : `::${pseudo}`);
  const values = new Map<string, string>();
  for (const name of style ?? []) if (!derived.test(name)) values.set(name, style!.getPropertyValue(name));
  return values;
}

/** The properties that have other values. */
export const changedBetween = (before: ReadonlyMap<string, string>, now: ReadonlyMap<string, string>): string[] =>
  [...now.keys()].filter((name) => before.has(name) && before.get(name) !== now.get(name));

/** Finds winners, reading the rules of each document and shadow root once. */
export function winnerFinder(own: CSSStyleSheet | null) {
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
export const asChanges = (
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
