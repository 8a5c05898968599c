/** Design tokens: the custom properties that a project's style sheets declare, and where they are used. */
import { contrastOf, luminance } from '../accessibility/contrast.ts';
import { channelsOf } from '../cause/colours.ts';
import { type Item, parseSheet } from '../cause/css.ts';
import { variableName, variablesIn } from '../cause/variables.ts';

export type TokenKind = 'colour' | 'length' | 'type' | 'other';

export type TokenValue = {
  /** Where it counts: a selector and the conditions around it, such as `@media (prefers-color-scheme: dark)`. */
  where: string;
  /** As it is written. */
  value: string;
  /** Where other tokens have been put in; null for one that refers to what is not known. */
  resolved: string | null;
};

export type Token = { name: string; kind: TokenKind; values: TokenValue[]; used: number };

/** A colour of text on one of a ground, as tokens; `ratio` as WCAG 2.2 has it. */
export type TokenPair = { text: string; ground: string; where: string; ratio: number };

type Declared = { name: string; value: string; where: string };
type Use = { property: string; value: string; selector: string };

function walk(items: readonly Item[], around: string[], declared: Declared[], uses: Use[]): void {
  for (const item of items) {
    if (item.kind === 'rule') walk(item.items, [...around, item.prelude], declared, uses);
    if (item.kind !== 'declaration') continue;
    const where = around.join(' ');
    if (item.property.startsWith('--')) declared.push({ name: item.property, value: item.value, where });
    if (item.value.includes('var(')) uses.push({ property: item.property, value: item.value, selector: where });
  }
}

/** Where what counts everywhere is declared, in a layer or outside of all. */
const isEverywhere = (where: string): boolean =>
  /^(:root|html|:host|body|\*)(\s*,\s*(:root|html|:host|body))*$/.test(where.replace(/@layer\s+[\w.-]*\s*/g, ''));

/** A reference to a token, with what counts where there is none. */
const substituted = new RegExp(String.raw`var\(\s*(${variableName})\s*(?:,([^()]*(?:\([^()]*\))?[^()]*))?\)`, 'g');

/** A value with the tokens that it refers to put in, as they are where it counts, or everywhere. */
function resolve(value: string, where: string, all: readonly Declared[], depth = 0): string | null {
  if (!value.includes('var(')) return value;
  if (depth > 8) return null;
  const found = value.replace(substituted, (_, name: string, other) => {
    const own = all.filter((one) => one.name === name);
    const one = own.find((each) => each.where === where) ?? own.find((each) => isEverywhere(each.where));
    const put = one ? resolve(one.value, where, all, depth + 1) : ((other as string | undefined)?.trim() ?? null);
    return put ?? '\0';
  });
  return found.includes('\0') ? null : found;
}

const isColour = (value: string): boolean =>
  channelsOf(value) !== null ||
  // What depends on the page, or on what is not known.
  /^((rgb|hsl|hwb|lab|lch|oklab|oklch|color|color-mix|light-dark)a?\(.*\)|currentcolor|canvas|canvastext)$/i.test(
    value,
  );

const isLength = (value: string): boolean =>
  /^-?[\d.]+(px|rem|em|ch|ex|vh|vw|vmin|vmax|%|cqw|cqi|lh|rlh)$/.test(value) || /^(calc|clamp|min|max)\(/.test(value);

/** What a token is for, by its value, and where that says nothing by its name. */
function kindOf({ name, values }: { name: string; values: readonly TokenValue[] }): TokenKind {
  const value = values[0]?.resolved ?? values[0]?.value ?? '';
  if (/font|leading|tracking|line-height|letter/.test(name) || /(sans-serif|serif|monospace|system-ui)/.test(value))
    return 'type';
  if (isColour(value)) return 'colour';
  return isLength(value) ? 'length' : 'other';
}

/**
 * Names that sheets register and that do not inherit (CSS Properties and Values, 1.1): the parts of which a library
 * puts together one property of one element.
 */
function notInherited(items: readonly Item[]): string[] {
  return items.flatMap((item) => {
    if (item.kind !== 'rule') return [];
    const name = /^@property\s+(--[\w-]+)/.exec(item.prelude)?.[1];
    if (!name) return notInherited(item.items);
    const says = item.items.find((one) => one.kind === 'declaration' && one.property === 'inherits');
    return says?.kind === 'declaration' && says.value.trim() === 'false' ? [name] : [];
  });
}

const functions = 'rgba?|hsla?|hwb|lab|lch|oklab|oklch';
const wrapped = new RegExp(String.raw`\b(${functions})\(\s*var\(\s*(${variableName})\s*\)\s*(?:\/[^)]*)?\)`, 'gi');

/** Functions of colours, and tokens that declarations give them as all of their channels: `hsl(var(--paper))`. */
function channelTokens(values: readonly string[]): Map<string, string> {
  const found = values.flatMap((value) => [...value.matchAll(wrapped)]);
  return new Map(found.map(([, wrapper, name]) => [name!, wrapper!]));
}

/** The value of a token as it is used; one that holds the channels of a colour as that colour. */
function asUsed(resolved: string | null, wrapper: string | undefined): string | null {
  const whole = `${wrapper}(${resolved})`;
  return wrapper !== undefined && resolved !== null && channelsOf(whole) ? whole : resolved;
}

/** Every custom property that sheets declare and elements inherit, with how many declarations use it. */
export function tokensIn(sheets: readonly string[]): { tokens: Token[]; uses: Use[] } {
  const declared: Declared[] = [];
  const uses: Use[] = [];
  const own = new Set<string>();
  for (const sheet of new Set(sheets)) {
    const items = parseSheet(sheet);
    walk(items, [], declared, uses);
    for (const name of notInherited(items)) own.add(name);
  }
  const names = [...new Set(declared.map(({ name }) => name))].filter((name) => !own.has(name));
  const channels = channelTokens([...uses, ...declared].map(({ value }) => value));
  const used = new Map<string, number>();
  for (const { value } of uses)
    for (const name of new Set(variablesIn(value))) used.set(name, (used.get(name) ?? 0) + 1);
  const tokens = names.map((name): Token => {
    const own = declared.filter((one) => one.name === name);
    const distinct = new Map(own.map((one) => [`${one.where}\0${one.value}`, one]));
    const values = [...distinct.values()].map(({ where, value }) => ({
      where,
      value,
      resolved: asUsed(resolve(value, where, declared), channels.get(name)),
    }));
    return { name, kind: kindOf({ name, values }), values, used: used.get(name) ?? 0 };
  });
  return { tokens, uses };
}

const isText = ({ property }: Use): boolean => property === 'color' || property === 'fill';
const isGround = ({ property }: Use): boolean => property === 'background' || property === 'background-color';

/** How light a token is in one place, or the one that counts everywhere; null for what others are seen through. */
function luminanceIn({ values }: Token, where: string): number | null {
  const found = values.find((one) => one.where === where) ?? values.find((one) => isEverywhere(one.where));
  const channels = found?.resolved ? channelsOf(found.resolved) : null;
  if (channels === null || channels[3] < 1) return null;
  const [red, green, blue] = channels;
  return luminance([red, green, blue]);
}

/** Every colour that text has on every colour that is a ground, in each scheme that tokens are declared for. */
export function pairsOf(tokens: readonly Token[], uses: readonly Use[]): TokenPair[] {
  const named = (is: (use: Use) => boolean): Token[] => {
    const names = new Set(uses.filter(is).flatMap(({ value }) => variablesIn(value)));
    return tokens.filter(({ name, kind }) => kind === 'colour' && names.has(name));
  };
  const [texts, grounds] = [named(isText), named(isGround)];
  const places = new Set([...texts, ...grounds].flatMap(({ values }) => values.map(({ where }) => where)));
  return [...places].flatMap((where) =>
    texts.flatMap((text) =>
      grounds.flatMap((ground): TokenPair[] => {
        const [one, other] = [luminanceIn(text, where), luminanceIn(ground, where)];
        if (one === null || other === null || text === ground) return [];
        return [{ text: text.name, ground: ground.name, where, ratio: contrastOf(one, other) }];
      }),
    ),
  );
}

/** The tokens that rules use whose selectors name nothing but these classes and tags, and tokens behind those. */
export function tokensOf(
  { tokens, uses }: { tokens: readonly Token[]; uses: readonly Use[] },
  { classes, tags, styles }: { classes: ReadonlySet<string>; tags: ReadonlySet<string>; styles: readonly string[] },
): string[] {
  const isMeant = ({ selector }: Use): boolean => {
    const plain = selector.replace(/@[\w-]+[^@:.#]*?(?=\s[.#:[\w*]|$)/g, ' ');
    return plain.split(',').some((one) => {
      const named = [...one.matchAll(/\.([\w-]+)/g)].map(([, name]) => name!);
      const elements = [...one.replace(/\.[\w-]+|\[[^\]]*\]|::?[\w-]+(\([^)]*\))?/g, ' ').matchAll(/\b[a-z][\w-]*/gi)];
      if (named.length + elements.length === 0) return false;
      return named.every((name) => classes.has(name)) && elements.every(([name]) => tags.has(name.toLowerCase()));
    });
  };
  const found = new Set([
    ...uses.filter((use) => !use.property.startsWith('--') && isMeant(use)).flatMap(({ value }) => variablesIn(value)),
    ...styles.flatMap(variablesIn),
  ]);
  return tokens.filter(({ name }) => found.has(name)).map(({ name }) => name);
}
