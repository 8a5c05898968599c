/** Colours in values of declarations: one that gave way to another one in many rules is one cause. */
import { color, serializeRGB } from '@csstools/css-color-parser';
import { parseComponentValue } from '@csstools/css-parser-algorithms';
import { tokenize } from '@csstools/css-tokenizer';

/** Red, green and blue from 0 to 255, and opacity from 0 to 1. */
export type Channels = readonly [red: number, green: number, blue: number, alpha: number];

/** What was read last: sheets have few colours, each in many declarations. */
const known = new Map<string, Channels | null>();
const mostKnown = 5000;

/** Whatever else a text is, it is no colour. */
const mayBeColour = /^(#[0-9a-f]+|[a-z]+|[a-z-]+\(.*\))$/is;

function read(text: string): Channels | null {
  const value = mayBeColour.test(text) ? parseComponentValue(tokenize({ css: text })) : undefined;
  const found = value ? color(value) : false;
  if (!found) return null;
  // It is written in whole numbers, without an opacity where it is opaque.
  const [red = 0, green = 0, blue = 0] = serializeRGB(found)
    .toString()
    .match(/[\d.]+/g)!
    .map(Number);
  return [red, green, blue, typeof found.alpha === 'number' ? found.alpha : 1];
}

/** A colour in any notation that does not depend on the page (CSS Color 5); null for any other text. */
export function channelsOf(text: string): Channels | null {
  const before = known.get(text);
  if (before !== undefined) return before;
  if (known.size >= mostKnown) known.clear();
  const channels = read(text.trim());
  known.set(text, channels);
  return channels;
}

const hexOf = (channels: readonly number[]): string =>
  `#${channels.map((one) => one.toString(16).padStart(2, '0')).join('')}`;

/** `#0b5563` of a colour, however opaque it is; null for any other text. */
export function opaque(text: string): string | null {
  const channels = channelsOf(text);
  return channels && hexOf(channels.slice(0, 3));
}

/** The parts of a value that stand beside one another. */
const partsOf = (value: string): string[] => value.match(/[^\s(,]*\((?:[^()]|\([^()]*\))*\)|[^\s(),]+|,/g) ?? [];

/** A colour in hexadecimal, and as it is written where that is another notation. */
export type Written = { hex: string; text: string };

const writtenAs = (text: string, hex: string): Written => ({ hex, text: /^(#|rgba?\()/i.test(text) ? hex : text });

/** The colour that gave way to another one in a value, where that is all that differs; null otherwise. */
export function colourChange(before: string, now: string): [before: Written, now: Written] | null {
  const [one, other] = [partsOf(before), partsOf(now)];
  if (one.length !== other.length) return null;
  const changes = new Map<string, [Written, Written]>();
  for (const [i, part] of one.entries()) {
    const instead = other[i]!;
    if (part === instead) continue;
    const [from, to] = [opaque(part), opaque(instead)];
    if (from === null || to === null || from === to) return null;
    changes.set(`${from} ${to}`, [writtenAs(part, from), writtenAs(instead, to)]);
  }
  return changes.size === 1 ? [...changes.values()][0]! : null;
}

/** A value of CSS with its opaque colours as `#rrggbb`, as most sheets write them. */
export const inHex = (value: string): string =>
  value.replace(/rgb\((\d+), (\d+), (\d+)\)/g, (_, ...parts: string[]) => hexOf(parts.slice(0, 3).map(Number)));
