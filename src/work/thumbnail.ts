/** Pictures made small enough for a tile of the board. */
import { loadSharp } from './png.ts';

/** A tile's picture is at most this large on a screen with two dots to a pixel, in dots. */
const box = { width: 480, height: 280 };

/** Text is to be read in it, and it takes some 3 KB. */
const webp = { quality: 80, effort: 3, smartSubsample: true };

/** A picture as WebP, as it is or made smaller. @throws Error when the bytes are not a picture */
export async function thumbnailOf(png: Uint8Array): Promise<Buffer> {
  const sharp = await loadSharp();
  return sharp(png)
    .resize({ ...box, fit: 'inside', withoutEnlargement: true })
    .webp(webp)
    .toBuffer();
}
