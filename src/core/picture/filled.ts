/** The part of a picture that something is drawn in. */
import type { Picture } from './picture.ts';

/** In pixels, from the top left. */
export type Part = { left: number; top: number; width: number; height: number };

/**
 * The part outside of which all is of one colour, that of the right edge. The whole picture where that edge has
 * several, since something reaches it, or where there is nothing else.
 */
export function filledPart({ width, height, channels, data }: Picture): Part {
  const whole = { left: 0, top: 0, width, height };
  const edge = (width - 1) * channels;
  const isEmpty = (x: number, y: number): boolean => {
    const at = (y * width + x) * channels;
    for (let i = 0; i < channels; i++) if (data[at + i] !== data[edge + i]) return false;
    return true;
  };
  for (let y = 0; y < height; y++) if (!isEmpty(width - 1, y)) return whole;
  const firstIn = (y: number, before: number): number => {
    let x = 0;
    while (x < before && isEmpty(x, y)) x++;
    return x;
  };
  const lastIn = (y: number, after: number): number => {
    let x = width - 1;
    while (x > after && isEmpty(x, y)) x--;
    return x;
  };
  let top = 0;
  while (top < height && firstIn(top, width) === width) top++;
  if (top === height) return whole;
  let bottom = height - 1;
  while (firstIn(bottom, width) === width) bottom--;
  let [left, right] = [width, -1];
  for (let y = top; y <= bottom; y++) {
    left = firstIn(y, left);
    right = lastIn(y, right);
  }
  return { left, top, width: right - left + 1, height: bottom - top + 1 };
}
