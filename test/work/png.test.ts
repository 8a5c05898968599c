/** Decoding PNG files: ours for the plain kind says what a library that knows all kinds says. */
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { numbersFrom } from '../../src/core/steady/chance.ts';
import { decodePlainPng } from '../../src/work/plainPng.ts';
import { decodePng, packPng } from '../../src/work/png.ts';

type Kind = { width: number; height: number; channels: 3 | 4; adaptive: boolean; noise: number };

/** A picture with smooth and with noisy parts, so that an encoder chooses every filter somewhere. */
function pixelsOf({ width, height, channels, noise }: Kind): Buffer {
  const number = numbersFrom(width * 31 + height);
  const data = Buffer.alloc(width * height * channels);
  for (let i = 0; i < data.length; i++) {
    const y = Math.floor(i / (width * channels));
    const x = Math.floor(i / channels) % width;
    data[i] = (x * (y % 3) + y * (x % 5) + (i % channels) * 40 + (y % 7 === 0 ? number(noise) : 0)) & 255;
  }
  return data;
}

const encode = (kind: Kind): Promise<Buffer> => {
  const { width, height, channels, adaptive } = kind;
  return sharp(pixelsOf(kind), { raw: { width, height, channels } })
    .png({ adaptiveFiltering: adaptive, compressionLevel: 6 })
    .toBuffer();
};

const kinds: Kind[] = [
  { width: 64, height: 40, channels: 3, adaptive: true, noise: 256 },
  { width: 61, height: 33, channels: 3, adaptive: true, noise: 9 },
  { width: 50, height: 50, channels: 4, adaptive: true, noise: 256 },
  { width: 7, height: 90, channels: 4, adaptive: true, noise: 3 },
  { width: 1, height: 1, channels: 3, adaptive: false, noise: 1 },
  { width: 1, height: 300, channels: 4, adaptive: true, noise: 50 },
  { width: 900, height: 2, channels: 3, adaptive: false, noise: 200 },
];

describe('a plain file', () => {
  it.each(kinds)('has the pixels that were put into it: $width x $height x $channels', async (kind) => {
    const { width, height, channels } = kind;
    const png = await encode(kind);
    expect(decodePlainPng(png)).toEqual({ width, height, channels, data: new Uint8Array(pixelsOf(kind)) });
  });

  it('is read from the middle of a larger buffer, too', async () => {
    const png = await encode(kinds[0]!);
    const larger = Buffer.concat([Buffer.alloc(3, 7), png, Buffer.alloc(5, 9)]);
    expect(decodePlainPng(larger.subarray(3, 3 + png.length))?.data).toEqual(new Uint8Array(pixelsOf(kinds[0]!)));
  });

  it('is none that is spoilt, wherever that is', async () => {
    const png = await encode(kinds[0]!);
    const spoilt = (at: number): Buffer => {
      const copy = Buffer.from(png);
      copy[at] = copy[at]! ^ 0x55;
      return copy;
    };
    expect(decodePlainPng(png.subarray(0, png.length - 20))).toBeNull();
    expect(decodePlainPng(Buffer.alloc(0))).toBeNull();
    const data = png.indexOf('IDAT') + 4;
    for (let at = data + 2; at < png.length - 20; at += 37) expect(decodePlainPng(spoilt(at))).toBeNull();
    await expect(decodePng(png.subarray(0, 60))).rejects.toThrow();
  });
});

describe('a file of another kind', () => {
  it.each([
    ['with a palette', () => sharp(pixelsOf(kinds[0]!), { raw: kinds[0]! }).png({ palette: true }).toBuffer()],
    ['interlaced', () => sharp(pixelsOf(kinds[0]!), { raw: kinds[0]! }).png({ progressive: true }).toBuffer()],
    ['in grey', () => sharp(pixelsOf(kinds[0]!), { raw: kinds[0]! }).toColourspace('b-w').png().toBuffer()],
    ['of another format', () => sharp(pixelsOf(kinds[0]!), { raw: kinds[0]! }).webp({ lossless: true }).toBuffer()],
  ])('is left to the library: %s', async (_, make) => {
    const file = await make();
    expect(decodePlainPng(file)).toBeNull();
    expect(await decodePng(file)).toMatchObject({ width: 64, height: 40 });
  });
});

describe('packing', () => {
  it.each(kinds)('keeps every pixel: $width x $height x $channels, adaptive $adaptive', async (kind) => {
    const png = await encode(kind);
    const packed = await packPng(png);
    expect(packed.length).toBeLessThanOrEqual(png.length);
    expect((await decodePng(packed)).data).toEqual((await decodePng(png)).data);
  });
});
