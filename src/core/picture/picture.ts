/**
 * A picture in memory: 8 bits a channel, row by row from the top left; red, green, blue, and alpha when there are
 * four.
 */
export type Picture = { width: number; height: number; channels: 3 | 4; data: Uint8Array };

/** One pixel as a little-endian RGBA word; pictures of three channels are opaque. */
export function pixelAt({ channels, data }: Picture, index: number): number {
  const at = index * channels;
  const alpha = channels === 4 ? data[at + 3]! : 255;
  return ((alpha << 24) | (data[at + 2]! << 16) | (data[at + 1]! << 8) | data[at]!) >>> 0;
}

/** The same pixels with an alpha channel. */
export function withAlpha(picture: Picture): Picture {
  if (picture.channels === 4) return picture;
  const { width, height } = picture;
  const words = new Uint32Array(width * height);
  for (let i = 0; i < words.length; i++) words[i] = pixelAt(picture, i);
  return { width, height, channels: 4, data: new Uint8Array(words.buffer) };
}

/** True when `length` bytes of `a` from `aStart` equal those of `b` from `bStart`. */
export type SameBytes = (a: Uint8Array, aStart: number, b: Uint8Array, bStart: number, length: number) => boolean;

/** `SameBytes` where nothing faster is at hand. */
export const sameBytes: SameBytes = (a, aStart, b, bStart, length) => {
  for (let i = 0; i < length; i++) if (a[aStart + i] !== b[bStart + i]) return false;
  return true;
};
