/** The folder of baselines and the records: what is taken in, and what is not read again. */
import { readdirSync, readFileSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { folderCacheOf, takeInFolder } from '../../src/baselines/reconcile.ts';
import { markTaken } from '../../src/baselines/taken.ts';
import { writeBaselines } from '../../src/baselines/write.ts';
import { openStore, type Store } from '../../src/store/index.ts';
import { encodePng } from '../../src/work/png.ts';
import { freshFolder } from '../support/project.ts';

const sha = (content: Uint8Array | string): string => createHash('sha256').update(content).digest('hex');
const moment = JSON.stringify({
  view: { width: 1, height: 1, scroll: [0, 0] },
  sheets: [],
  assets: {},
  root: { tag: 'html', kids: [{ tag: 'body', kids: [{ tag: 'p', kids: ['High water'] }] }] },
});
const longAgo = new Date('2026-03-02T09:30:00Z');

/** A folder with baselines of the looks `low` and `high`, written long ago. */
async function tides(shade = 10): Promise<{ root: string; picture: Buffer }> {
  const root = freshFolder();
  const data = new Uint8Array(4 * 40 * 30).fill(shade);
  const picture = await encodePng({ width: 40, height: 30, channels: 4, data });
  const list = ['low', 'high'].map((look) => ({
    key: { component: 'src/Tide', look, environment: 'day', capture: 'end' },
    family: null,
    parts: {
      picture: sha(picture),
      moment: sha(moment),
      sheets: [],
      assets: {},
      fingerprint: 'f',
      width: 40,
      height: 30,
    },
    png: markTaken(picture, sha(`screenshot of ${look}`)),
    moment: () => moment,
    shared: [],
    approved: { by: 'Ada', at: '2026-03-02T09:30:00Z', why: null, run: 1 },
  }));
  writeBaselines(root, 'baselines', list, () => {});
  const folder = join(root, 'baselines/day/src/Tide');
  for (const file of readdirSync(folder)) utimesSync(join(folder, file), longAgo, longAgo);
  return { root, picture };
}

/** What a service that has just been started makes of the folder. */
const takeIn = (store: Store, root: string) =>
  takeInFolder(store, root, { baselines: 'baselines', family: null }, folderCacheOf(store));

/** Spoils a file without a trace in its size and time. */
function spoil(path: string): void {
  const bytes = readFileSync(path);
  writeFileSync(path, bytes.fill(0));
  utimesSync(path, longAgo, longAgo);
}

describe('taking in the folder', () => {
  it('gives captures what they are compared with', async () => {
    const { root } = await tides();
    const store = openStore(':memory:');
    const baseline = takeIn(store, root).of('src/Tide', 'high', 'day', 'end');
    expect(baseline).toMatchObject({
      hash: sha('screenshot of high'),
      file: 'baselines/day/src/Tide/high.png',
      markup: expect.arrayContaining([expect.stringContaining('High water')]),
    });
    expect(takeIn(store, root).of('src/Tide', 'neap', 'day', 'end')).toBeNull();
  });

  it('reads files again, after a restart too, only when their size or time has changed', async () => {
    const { root } = await tides();
    const store = openStore(':memory:');
    const first = takeIn(store, root);
    const path = join(root, 'baselines/day/src/Tide/high.png');
    spoil(path);
    const again = takeIn(store, root);
    expect(again.unreadable).toEqual([]);
    expect(again.identity('src/Tide', 'high', 'day')).toBe(first.identity('src/Tide', 'high', 'day'));
    utimesSync(path, new Date(), longAgo.getTime() / 1000 + 1);
    const touched = takeIn(store, root);
    expect(touched.unreadable).toMatchObject([{ code: 'baseline-corrupt' }]);
    expect(touched.of('src/Tide', 'high', 'day', 'end')).toMatchObject({ unreadable: { code: 'baseline-corrupt' } });
    expect(touched.identity('src/Tide', 'high', 'day')).not.toBe(first.identity('src/Tide', 'high', 'day'));
    expect(touched.identity('src/Tide', 'low', 'day')).toBe(first.identity('src/Tide', 'low', 'day'));
  });

  it('forgets what is gone, and what another folder held', async () => {
    const { root } = await tides();
    const other = await tides(200);
    const store = openStore(':memory:');
    takeIn(store, root);
    takeInFolder(store, other.root, { baselines: 'elsewhere', family: null }, folderCacheOf(store));
    expect(store.baselineFiles.all()).toEqual([]);
    expect(takeIn(store, root).files).toHaveLength(2);
    expect(store.baselineFiles.all().map(({ file }) => file)).toEqual([
      'baselines/day/src/Tide/high.json',
      'baselines/day/src/Tide/low.json',
    ]);
  });

  it('takes a file in again when the records have decided otherwise meanwhile', async () => {
    const { root } = await tides();
    const store = openStore(':memory:');
    takeIn(store, root);
    const key = { component: 'src/Tide', look: 'low', environment: 'day', capture: 'end' };
    const { id, at, ...known } = store.decisions.baseline(key)!;
    const hash = store.blobs.put(Buffer.from('another picture'), 'image/png');
    store.decisions.add({ ...known, kind: 'approve', hash });
    expect(takeIn(store, root).of('src/Tide', 'low', 'day', 'end')).toMatchObject({ hash: sha('screenshot of low') });
    expect(store.decisions.baseline(key)).toMatchObject({ kind: 'adopt', hash: sha('screenshot of low') });
  });
});
