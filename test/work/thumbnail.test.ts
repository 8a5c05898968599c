/** Pictures on tiles: small, and of what is worth showing. */
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { thumbnailOf } from '../../src/work/thumbnail.ts';

type Spot = { left: number; top: number; width: number; height: number };

/** A white picture with a blue spot. */
const picture = (width: number, height: number, spot: Spot | null): Promise<Buffer> => {
  const solid = (size: { width: number; height: number }, background: string) => ({
    create: { ...size, channels: 3 as const, background },
  });
  const input = spot ? [{ input: solid(spot, '#003399'), left: spot.left, top: spot.top }] : [];
  return sharp(solid({ width, height }, 'white')).composite(input).png().toBuffer();
};

const sizeOf = async (png: Buffer): Promise<[number, number]> => {
  const { width, height } = await sharp(await thumbnailOf(png)).metadata();
  return [width, height];
};

describe('a thumbnail', () => {
  it('shows a card in a wide frame as large as it is, with a little room around it', async () => {
    expect(await sizeOf(await picture(1280, 200, { left: 24, top: 20, width: 300, height: 120 }))).toEqual([316, 136]);
    expect(await sizeOf(await picture(400, 200, { left: 0, top: 0, width: 400, height: 100 }))).toEqual([400, 200]);
  });

  it('is made smaller to fit into a tile, and shows the beginning of what is very large', async () => {
    expect(await sizeOf(await picture(900, 640, { left: 4, top: 4, width: 892, height: 632 }))).toEqual([394, 280]);
    const long = await picture(1280, 9000, { left: 10, top: 10, width: 1200, height: 8900 });
    expect(await sizeOf(long)).toEqual([420, 280]);
  });

  it('is all of a picture in which nothing is, however small', async () => {
    expect(await sizeOf(await picture(300, 150, null))).toEqual([300, 150]);
    expect(await sizeOf(await picture(1, 1, null))).toEqual([1, 1]);
  });

  it('is refused for what is no picture', async () => {
    await expect(thumbnailOf(Buffer.from('rope'))).rejects.toThrow();
  });
});
