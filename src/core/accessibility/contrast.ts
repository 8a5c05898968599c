/** Contrast of text, measured on the pixels of a picture (WCAG 2.2, 1.4.3): gradients and images count as they are. */
import type { Picture } from '../picture/picture.ts';
import type { Finding, TextLine } from './finding.ts';

type Colour = readonly [red: number, green: number, blue: number];

const channel = new Float64Array(256);
for (let i = 0; i < 256; i++) {
  const value = i / 255;
  channel[i] = value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
}

/** Relative luminance (WCAG 2.2). */
export const luminance = ([red, green, blue]: Colour): number =>
  0.2126 * channel[Math.round(red)]! + 0.7152 * channel[Math.round(green)]! + 0.0722 * channel[Math.round(blue)]!;

/** Contrast ratio of two luminances, from 1 to 21. */
export const contrastOf = (a: number, b: number): number => (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);

const over = (top: TextLine['colour'], below: Colour): Colour => {
  const [red, green, blue, alpha] = top;
  return [
    red * alpha + below[0] * (1 - alpha),
    green * alpha + below[1] * (1 - alpha),
    blue * alpha + below[2] * (1 - alpha),
  ];
};

/** Strips so wide are measured for themselves, in device pixels: what is behind text may change along it. */
const stripWidth = 24;

/** Most of a strip of text has to be of one colour for a machine to be certain of what is behind it. */
const plain = 0.45;

/** Where even the clearest stroke has less of its contrast, something lies over the text. */
const veiled = 0.4;

/** Measured on 8-bit channels a ratio is only so exact. */
const slack = 0.06;

type Strip = { behind: Colour; share: number; most: number };

/** The commonest colour of a strip, and the greatest contrast to it that more than a stray pixel has. */
function readStrip(
  { data, channels, width }: Picture,
  left: number,
  top: number,
  right: number,
  bottom: number,
): Strip {
  const counts = new Map<number, number>();
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const at = (y * width + x) * channels;
      const key = (data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!;
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
  const colourOf = (key: number): Colour => [key >> 16, (key >> 8) & 255, key & 255];
  let [common, count] = [0, 0];
  for (const [key, n] of counts) if (n > count) [common, count] = [key, n];
  const behind = colourOf(common);
  const ground = luminance(behind);
  let most = 1;
  for (const [key, n] of counts) if (n > 1) most = Math.max(most, contrastOf(luminance(colourOf(key)), ground));
  return { behind, share: count / ((right - left) * (bottom - top)), most };
}

/** In a letter or two of thin strokes nobody can tell whether anything lies over them, in CSS pixels. */
const leastInk = 40;

/** Text of this size needs less contrast: 18 points, or 14 when it is bold. */
const isLarge = ({ size, isBold }: TextLine): boolean => size >= 24 || (isBold && size >= 18.66);

const hex = (colour: Colour): string =>
  `#${colour.map((value) => Math.round(value).toString(16).padStart(2, '0')).join('')}`;

/** What is wrong with the contrast of a line; null when nothing is. `ratio` is of device to CSS pixels. */
export function contrastFinding(picture: Picture, line: TextLine, ratio: number): Finding | null {
  const [x, y, width, height] = line.box.map((value) => value * ratio) as [number, number, number, number];
  const left = Math.max(0, Math.floor(x));
  const top = Math.max(0, Math.floor(y));
  const right = Math.min(picture.width, Math.ceil(x + width));
  const bottom = Math.min(picture.height, Math.ceil(y + height));
  if (right - left < 4 || bottom - top < 4) return null;
  const needed = isLarge(line) ? 3 : 4.5;
  let worst: { ratio: number; ink: Colour; strip: Strip } | null = null;
  /** How much of its declared contrast the clearest stroke has. */
  let clearest = 0;
  let most = 1;
  /** So many pixels are not of the ground. */
  let inked = 0;
  const strips = Math.max(1, Math.round((right - left) / stripWidth));
  for (let i = 0; i < strips; i++) {
    const from = left + Math.floor(((right - left) * i) / strips);
    const to = left + Math.floor(((right - left) * (i + 1)) / strips);
    const strip = readStrip(picture, from, top, to, bottom);
    // Between words there is nothing to read.
    if (strip.most < 1.02) continue;
    const ink = over(line.colour, strip.behind);
    // Thin strokes never come out in their full colour; what is declared says what they would be.
    const declared = contrastOf(luminance(ink), luminance(strip.behind));
    const measured = Math.max(strip.most, declared);
    clearest = Math.max(clearest, (strip.most - 1) / Math.max(0.01, declared - 1));
    most = Math.max(most, strip.most);
    inked += (1 - strip.share) * (to - from) * (bottom - top);
    if (!worst || measured < worst.ratio) worst = { ratio: measured, ink, strip };
  }
  if (!worst) return null;
  const isVeiled = clearest < veiled && inked >= leastInk * ratio * ratio;
  if ((isVeiled ? most : worst.ratio) >= needed - slack) return null;
  const certain = worst.strip.share >= plain && !line.isAside && !isVeiled;
  const found = Math.floor((isVeiled ? most : worst.ratio) * 10) / 10;
  const ink = isVeiled ? 'Its clearest stroke' : hex(worst.ink);
  const what = `${ink} on ${hex(worst.strip.behind)} is ${found.toFixed(1)} : 1; ${needed} : 1 is needed`;
  const { element, node, box, step } = line;
  return { rule: 'text-has-contrast', certain, element, what, node, box, step };
}

/** Findings of all lines, one an element: where it is worst. */
export function contrastFindings(picture: Picture, lines: readonly TextLine[], ratio: number): Finding[] {
  const found = new Map<string, Finding>();
  for (const line of lines) {
    const finding = contrastFinding(picture, line, ratio);
    if (finding && !found.has(line.element)) found.set(line.element, finding);
  }
  return [...found.values()];
}
