/** The part of a picture that something is drawn in. */
import type { Picture } from './picture.ts';

/** In pixels, from the top left. */
export type Part = { left: number; top: number; width: number; height: number };

/** The part outside of which all has the colour of the top left corner; a picture of one colour as a whole. */
export function filledPart({ width, height, channels, data }: Picture): Part {
  const isEmpty = (x: number, y: number): boolean => {
    const at = (y * width + x) * channels;
    for (let i = 0; i < channels; i++) if (data[at + i] !== data[i]) return false;
    return true;
  };
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
  if (top === height) return { left: 0, top: 0, width, height };
  let bottom = height - 1;
  while (firstIn(bottom, width) === width) bottom--;
  let [left, right] = [width, -1];
  for (let y = top; y <= bottom; y++) {
    left = firstIn(y, left);
    right = lastIn(y, right);
  }
  return { left, top, width: right - left + 1, height: bottom - top + 1 };
}
