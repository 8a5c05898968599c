/** Contrast of text as a picture shows it: what lies over it takes contrast away, and so do thin strokes. */
import { expect, test } from 'vitest';
import { contrastFinding } from '../../src/core/accessibility/contrast.ts';
import type { TextLine } from '../../src/core/accessibility/finding.ts';

const [width, height] = [60, 12];

/** A white picture with upright strokes of a grey, each a pixel wide and eight high. */
function picture(grey: number, strokes: number) {
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let i = 0; i < strokes; i++)
    for (let y = 2; y < 10; y++) data.fill(grey, (y * width + 4 + i * 3) * 4, (y * width + 4 + i * 3) * 4 + 3);
  return { data, width, height, channels: 4 as const };
}

const line = (colour: TextLine['colour']): TextLine => ({
  element: '<kbd>',
  node: 1,
  step: 0,
  box: [0, 0, width, height],
  colour,
  size: 11,
  isBold: false,
  isAside: false,
});

const whatIsWrong = (grey: number, strokes: number, colour: TextLine['colour']): string | null =>
  contrastFinding(picture(grey, strokes), line(colour), 1)?.what ?? null;

test('what is declared counts where strokes have their colour', () => {
  expect(whatIsWrong(0x60, 12, [0x60, 0x60, 0x60, 1])).toBeNull();
  expect(whatIsWrong(0x99, 12, [0x99, 0x99, 0x99, 1])).toBe('#999999 on #ffffff is 2.8 : 1; 4.5 : 1 is needed');
});

test('a veil takes contrast from every stroke of a word, and no colour is named that nobody sees', () => {
  expect(whatIsWrong(0xb0, 12, [0x40, 0x40, 0x40, 1])).toBe(
    'Its clearest stroke on #ffffff is 2.1 : 1; 4.5 : 1 is needed',
  );
});

test('one letter of thin strokes is not taken for veiled', () => {
  expect(whatIsWrong(0xb0, 2, [0x40, 0x40, 0x40, 1])).toBeNull();
});
