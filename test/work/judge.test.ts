/** How captures stand against their baselines, and the PNG files between. */
import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { Picture } from '../../src/core/picture/picture.ts';
import type { Baseline, Taken } from '../../src/core/baseline/baseline.ts';
import { problem } from '../../src/core/problem/problem.ts';
import { judgeCapture as judgeWith, type JudgeOptions } from '../../src/work/judge.ts';
import { decodePng, encodePng, pngSize, sameBytes } from '../../src/work/png.ts';

const solid = (width: number, height: number, [r, g, b]: [number, number, number]): Picture => {
  const data = new Uint8Array(width * height * 4);
  for (let i = 0; i < width * height; i++) data.set([r, g, b, 255], i * 4);
  return { width, height, channels: 4, data };
};

const judgeCapture = (now: Taken, baseline: Parameters<typeof judgeWith>[1], options: Partial<JudgeOptions> = {}) =>
  judgeWith(now, baseline, { compares: 'both', isUpgrade: false, redraw: async () => null, ...options });

async function taken(picture: Picture, change: Partial<Taken> = {}): Promise<Taken> {
  const png = await encodePng(picture);
  return {
    png,
    hash: createHash('sha256').update(png).digest('hex'),
    fingerprint: 'here',
    markup: ['<p>', '  Buoy'],
    allowances: [],
    moment: null,
    ...change,
  };
}
const approved = async (picture: Picture, change: Partial<Baseline> = {}): Promise<Baseline> => ({
  ...(await taken(picture)),
  file: 'baselines/day/src/Buoy/plain.png',
  ...change,
});
const paper = solid(40, 30, [244, 246, 245]);

describe('judgeCapture', () => {
  it('is new without a baseline', async () => {
    expect(await judgeCapture(await taken(paper), null)).toEqual({
      state: { kind: 'new' },
      baseline: null,
      difference: null,
      redrawn: null,
    });
  });

  it('is the same when bytes and markup are', async () => {
    expect((await judgeCapture(await taken(paper), await approved(paper))).state).toEqual({ kind: 'same' });
  });

  it('is the same when the pixels differ only in what nobody can see', async () => {
    expect((await judgeCapture(await taken(solid(40, 30, [244, 246, 244])), await approved(paper))).state).toEqual({
      kind: 'same',
    });
  });

  it('is changed when the picture is, and brings a picture of the difference', async () => {
    const { state, difference, baseline } = await judgeCapture(
      await taken(solid(40, 30, [200, 60, 60])),
      await approved(paper),
    );
    expect(state).toMatchObject({
      kind: 'changed',
      markup: [],
      otherFingerprint: false,
      picture: { visible: 1200, regions: [{ box: [0, 0, 40, 30] }] },
    });
    expect(pngSize(difference!)).toEqual([40, 30]);
    expect(baseline).toMatch(/^[0-9a-f]{64}$/);
  });

  it('is the same when only names, classes and wrappers differ, which nobody perceives', async () => {
    const baseline = await approved(paper, { markup: ['<div class="a">', '  <p id="x">', '    Buoy'] });
    const now = await taken(paper, {
      markup: ['<div class="b">', '  <div>', '    <p id="y" style="top: 0">', '      Buoy'],
    });
    expect((await judgeCapture(now, baseline)).state).toEqual({ kind: 'same' });
  });

  it('is the same in a project that does not compare markup', async () => {
    const baseline = await approved(paper, { markup: ['Buoy'] });
    const now = await taken(paper, { markup: ['Beacon'] });
    expect((await judgeCapture(now, baseline, { compares: 'picture' })).state).toEqual({ kind: 'same' });
    expect((await judgeCapture(now, baseline)).state).toMatchObject({ kind: 'changed', picture: null });
  });

  it('is changed when only the markup is, without a picture', async () => {
    const { state, difference } = await judgeCapture(
      await taken(paper, { markup: ['<p>', '  Beacon'] }),
      await approved(paper),
    );
    expect(state).toMatchObject({
      kind: 'changed',
      picture: null,
      markup: [
        { side: 'baseline', text: 'Buoy' },
        { side: 'now', text: 'Beacon' },
      ],
    });
    expect(difference).toBeNull();
  });

  it('names a baseline that comes from elsewhere', async () => {
    const { state } = await judgeCapture(
      await taken(solid(40, 30, [0, 0, 0])),
      await approved(paper, { fingerprint: 'elsewhere' }),
    );
    expect(state).toMatchObject({ kind: 'changed', otherFingerprint: true });
  });

  it('compares what grew or shrank', async () => {
    const { state, difference } = await judgeCapture(
      await taken(solid(50, 20, [244, 246, 245])),
      await approved(paper),
    );
    expect(state).toMatchObject({
      kind: 'changed',
      picture: { from: [40, 30], to: [50, 20], differing: 0, added: [[40, 0, 10, 20]], lost: [[0, 20, 40, 10]] },
    });
    expect(pngSize(difference!)).toEqual([50, 30]);
  });

  it('says which file cannot be read', async () => {
    const { state } = await judgeCapture(
      await taken(paper),
      await approved(paper, { png: Buffer.from('no picture'), hash: 'x' }),
    );
    expect(state).toMatchObject({
      kind: 'unreadable',
      why: {
        code: 'baseline-corrupt',
        message: expect.stringMatching(
          /^The baseline baselines\/day\/src\/Buoy\/plain\.png cannot be read as a picture: /,
        ),
      },
    });
    const torn = problem('baseline-torn', { file: 'baselines/day/src/Buoy/plain.png' });
    expect((await judgeCapture(await taken(paper), { unreadable: torn })).state).toEqual({
      kind: 'unreadable',
      why: torn,
    });
  });
});

describe('PNG files', () => {
  it('come back as the pixels that went in', async () => {
    const picture: Picture = {
      width: 3,
      height: 2,
      channels: 4,
      data: Uint8Array.from({ length: 24 }, (_, i) => (i * 37) % 256),
    };
    const back = await decodePng(await encodePng(picture));
    expect([back.width, back.height, back.channels, [...back.data]]).toEqual([3, 2, 4, [...picture.data]]);
  });

  it('tell their size by their first bytes, and other bytes tell none', async () => {
    expect(pngSize(await encodePng(solid(7, 5, [1, 2, 3])))).toEqual([7, 5]);
    expect(pngSize(Buffer.from('GIF89a'))).toBeNull();
    expect(pngSize(Buffer.alloc(60))).toBeNull();
  });

  it('are compared by parts', () => {
    const a = Buffer.from([1, 2, 3, 4]);
    expect(sameBytes(a, 1, Buffer.from([9, 2, 3, 9]), 1, 2)).toBe(true);
    expect(sameBytes(a, 0, Buffer.from([9, 2, 3, 9]), 0, 2)).toBe(false);
  });

  describe('of a baseline that another browser has taken', () => {
    const other = { fingerprint: 'elsewhere' };
    const grey = solid(20, 20, [250, 250, 250]);

    it('is the same where the moments are equal, whatever the pixels', async () => {
      const now = await taken(grey, { moment: 'm' });
      const baseline = await approved(paper, { ...other, moment: 'm' });
      expect((await judgeCapture(now, baseline)).state).toEqual({ kind: 'same', isElsewhere: true });
      // The page may show more than its moment tells.
      const opaque = await taken(grey, { moment: null });
      expect((await judgeCapture(opaque, baseline)).state.kind).toBe('changed');
    });

    it('is compared with the approved moment as this browser draws it', async () => {
      const png = await encodePng(grey);
      const redraw = async () => ({ png, hash: 'again' });
      const now = await taken(grey, { moment: 'm' });
      const baseline = await approved(paper, { ...other, moment: 'n' });
      expect((await judgeCapture(now, baseline, { redraw })).state.kind).toBe('same');
      const dark = await judgeCapture(await taken(solid(20, 20, [0, 0, 0]), { moment: 'm' }), baseline, { redraw });
      expect(dark).toMatchObject({ state: { kind: 'changed', isRedrawn: true }, baseline: 'again' });
    });

    it('counts to the pixel in an upgrade', async () => {
      const now = await taken(paper, { moment: 'm' });
      const baseline = await approved(paper, { ...other, moment: 'm' });
      const { state } = await judgeCapture(now, baseline, { isUpgrade: true });
      expect(state).toMatchObject({ kind: 'changed', otherFingerprint: true, picture: null, markup: [] });
    });
  });
});
