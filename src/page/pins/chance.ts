/** Chance: the same numbers in every look. */
import type { Pin } from './pin.ts';

let seed = 1;

/** mulberry32: small, fast, and good enough to stand in for chance. */
function chance(): number {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
}

/** Chance begins elsewhere. */
export const seedChance = (to: number): void => {
  seed = to | 0;
};

const hex = (byte: number): string => byte.toString(16).padStart(2, '0');

export const chancePin: Pin = {
  install() {
    Math.random = chance;
    const real = Crypto.prototype.getRandomValues;
    Crypto.prototype.getRandomValues = function <T extends ArrayBufferView | null>(this: Crypto, array: T): T {
      // The real one says what is wrong with an argument.
      real.call(this, array as never);
      const { buffer, byteOffset, byteLength } = array!;
      const bytes = new Uint8Array(buffer, byteOffset, byteLength);
      for (let i = 0; i < bytes.length; i++) bytes[i] = Math.floor(chance() * 256);
      return array;
    };
    Crypto.prototype.randomUUID = () => {
      const bytes = crypto.getRandomValues(new Uint8Array(16));
      // RFC 9562, version 4.
      bytes[6] = (bytes[6]! & 15) | 64;
      bytes[8] = (bytes[8]! & 63) | 128;
      const text = Array.from(bytes, hex).join('');
      const parts = [text.slice(0, 8), text.slice(8, 12), text.slice(12, 16), text.slice(16, 20), text.slice(20)];
      return parts.join('-') as ReturnType<Crypto['randomUUID']>;
    };
  },
  evaluate() {
    seed = 0x4c4b;
  },
  begin() {
    seed = 0x5347;
  },
};
