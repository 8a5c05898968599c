/** A picture in memory: 8 bits a channel, red, green, blue, alpha, row by row from the top left. */
export type Picture = { width: number; height: number; data: Uint8Array };

/** The same pixels, one 32-bit word each; copies only when the bytes are not aligned. */
export function words(picture: Picture): Uint32Array {
  const { data } = picture;
  const count = picture.width * picture.height;
  if (data.byteOffset % 4 === 0) return new Uint32Array(data.buffer as ArrayBuffer, data.byteOffset, count);
  return new Uint32Array(data.slice(0, count * 4).buffer);
}
