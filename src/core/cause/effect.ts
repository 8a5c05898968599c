/** What a cause does to elements: computed values that are others now, and the declarations that win. */
import { inHex } from './colours.ts';
import { fewest } from './shorthands.ts';

/** A declaration that wins in the cascade for an element. */
export type Winner = {
  /** The selector of its rule; null for one in the element's `style` attribute. */
  rule: string | null;
  property: string;
  value: string;
};

/** One property of one element, as it is computed on both sides. */
export type StyleChange = { property: string; before: string; now: string; wasBy: Winner | null; by: Winner | null };

/** What a cause does to one property, or to several that it does the same to. */
export type Effect = Omit<StyleChange, 'property'> & { properties: string[] };

/** So many effects of a cause are told. */
const mostEffects = 8;

/** Values that follow from others: the same declaration is another value where these are others. */
const isDependent = ({ value }: Winner): boolean => /var\(|inherit|currentcolor|[\d.]r?em\b|[\d.]r?lh\b/i.test(value);

const isSame = (one: Winner | null, other: Winner | null): boolean => JSON.stringify(one) === JSON.stringify(other);

/** True for a change that comes from the declarations of this very element, not from what is around or in it. */
const isDirect = ({ by, wasBy }: StyleChange): boolean =>
  (by !== null || wasBy !== null) && (!isSame(by, wasBy) || isDependent(by!));

const winnerInHex = (winner: Winner | null): Winner | null => winner && { ...winner, value: inHex(winner.value) };

/** Changes of single properties as effects: what is the same for several properties or elements is told once. */
export function effectsOf(changes: readonly StyleChange[]): Effect[] {
  const groups = new Map<string, Effect>();
  for (const { property, before, now, by, wasBy } of changes.filter(isDirect)) {
    const told = { before: inHex(before), now: inHex(now), by: winnerInHex(by), wasBy: winnerInHex(wasBy) };
    const key = JSON.stringify(told);
    const group = groups.get(key) ?? { properties: [], ...told };
    if (!group.properties.includes(property)) group.properties.push(property);
    groups.set(key, group);
  }
  return [...groups.values()]
    .slice(0, mostEffects)
    .map((effect) => ({ ...effect, properties: fewest(effect.properties) }));
}

/** `.card { padding: 14px }`, or `style="padding: 14px"`. */
export function winnerText({ rule, property, value }: Winner): string {
  const declaration = value === '' ? property : `${property}: ${value}`;
  return rule === null ? `style="${declaration}"` : `${rule} { ${declaration} }`;
}

/** `padding: 12px → 14px`. */
export const effectText = ({ properties, before, now }: Pick<Effect, 'properties' | 'before' | 'now'>): string =>
  `${properties.join(', ')}: ${before} → ${now}`;
