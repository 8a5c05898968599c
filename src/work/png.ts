/** PNG files as pictures and back. */
import type { Picture, SameBytes } from '../core/picture/picture.ts';
import { decodePlainPng } from './plainPng.ts';

/**
 * The library that reads and writes pictures. Imported when first needed: it takes a quarter of a second, and most runs
 * compare bytes only.
 */
export const loadSharp = async () => {
  const { default: sharp } = await import('sharp');
  // Pictures are decoded two at a time; more threads for each of them only get in one another's way.
  sharp.concurrency(1);
  sharp.cache(false);
  return sharp;
};

/** The pixels of a PNG. @throws Error when the bytes are not a picture */
export async function decodePng(png: Uint8Array): Promise<Picture> {
  const plain = decodePlainPng(png);
  if (plain) return plain;
  const sharp = await loadSharp();
  const { data, info } = await sharp(png, { failOn: 'error' }).raw().toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  if (channels === 3 || channels === 4) return { width, height, channels, data };
  const grey = await sharp(png).toColourspace('srgb').ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { width, height, channels: 4, data: grey.data };
}

/** Compares bytes at the speed of memory. */
export const sameBytes: SameBytes = (a, aStart, b, bStart, length) =>
  Buffer.compare(a.subarray(aStart, aStart + length), b.subarray(bStart, bStart + length)) === 0;

export async function encodePng(picture: Picture): Promise<Buffer> {
  return (await loadSharp())(picture.data, { raw: { width: picture.width, height: picture.height, channels: 4 } })
    .png({ compressionLevel: 6 })
    .toBuffer();
}

/** The same picture in fewer bytes, if that is possible: without filters, and deflated as well as zlib can. */
export async function packPng(png: Uint8Array): Promise<Uint8Array> {
  const packed = await (await loadSharp())(png, { failOn: 'error' }).png({ compressionLevel: 9 }).toBuffer();
  return packed.length < png.length ? packed : png;
}

/** Width and height from a PNG's header (PNG specification, 11.2.1: IHDR comes first), or null for other bytes. */
export function pngSize(png: Uint8Array): [number, number] | null {
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  if (png.byteLength < 24 || view.getUint32(0) !== 0x89504e47 || view.getUint32(12) !== 0x49484452) return null;
  return [view.getUint32(16), view.getUint32(20)];
}
