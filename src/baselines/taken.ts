/**
 * Which screenshot an approved file shows: the same pixels in fewer bytes have another hash, so the file carries that
 * of the screenshot as it was taken, in a tEXt chunk (PNG specification, 11.3.4.3) right before its end. By it a
 * screenshot is known again without decoding either of them.
 */
import { crc32 } from 'node:zlib';

const start = 'tEXtSguardo-Taken\0';
const hashLength = 64;
/** Length of the data, type and text, checksum. */
const chunkLength = 4 + start.length + hashLength + 4;
const endLength = 12;

/** A PNG file with the SHA-256, in hexadecimal, of the screenshot that it shows. */
export function markTaken(png: Uint8Array, hash: string): Buffer {
  const chunk = Buffer.alloc(chunkLength);
  chunk.writeUInt32BE(chunkLength - 12);
  chunk.write(start + hash, 4, 'latin1');
  chunk.writeUInt32BE(crc32(chunk.subarray(4, -4)), chunkLength - 4);
  return Buffer.concat([png.subarray(0, -endLength), chunk, png.subarray(-endLength)]);
}

/** The hash that a PNG file carries of the screenshot that it shows, or null. */
export function takenHash(png: Uint8Array): string | null {
  const text = Buffer.from(png.subarray(-endLength - chunkLength + 4, -endLength - 4)).toString('latin1');
  const hash = text.slice(start.length);
  return text.startsWith(start) && /^[0-9a-f]{64}$/.test(hash) ? hash : null;
}
