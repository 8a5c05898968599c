/** Pictures made small enough for a tile of the board. */
import { filledPart, type Part } from '../core/picture/filled.ts';
import type { Picture } from '../core/picture/picture.ts';
import { decodePng, loadSharp } from './png.ts';

/** A tile's picture is at most this large on a screen with two dots to a pixel, in dots. */
const box = { width: 480, height: 280 };

/** Text is to be read in it, and it takes some 3 KB. */
const webp = { quality: 80, effort: 3, smartSubsample: true };

/** So much of a picture is shown at most, from its beginning, in dots: with more nobody could tell what it is. */
const most = { width: 960, height: 640 };

/** Left of what is empty around a component, in dots. */
const margin = 8;

/** The part of a picture that is worth showing: a card often stands in a frame as wide as the window. */
function worthShowing(picture: Picture): Part {
  const filled = filledPart(picture);
  const [left, top] = [Math.max(0, filled.left - margin), Math.max(0, filled.top - margin)];
  const right = Math.min(picture.width, filled.left + filled.width + margin);
  const bottom = Math.min(picture.height, filled.top + filled.height + margin);
  return { left, top, width: Math.min(right - left, most.width), height: Math.min(bottom - top, most.height) };
}

/**
 * A picture as WebP, made smaller where it is larger than a tile: without what is empty around it, and of a very large
 * one the beginning. @throws Error when the bytes are not a picture
 */
export async function thumbnailOf(png: Uint8Array): Promise<Buffer> {
  const picture = await decodePng(png);
  const { width, height, channels, data } = picture;
  const sharp = await loadSharp();
  return sharp(data, { raw: { width, height, channels } })
    .extract(worthShowing(picture))
    .resize({ ...box, fit: 'inside', withoutEnlargement: true })
    .webp(webp)
    .toBuffer();
}
