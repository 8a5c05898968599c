/**
 * What recording costs: the demo's scripts, run in one window with and without it; and what is stored of each step,
 * after every blob is kept once.
 */
import { usualRequest } from '../src/core/run/run.ts';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Lane } from '../src/work/lane.ts';
import { openStore } from '../src/store/index.ts';
import { type Figure, keyOf, median, openWorkshop, origin, timed } from './workshop.ts';

const ratioLimit = 1.25;
const bytesLimit = 4096;
const rounds = 7;

export async function measureRecord(): Promise<Figure> {
  const shop = await openWorkshop();
  const folder = mkdtempSync(join(tmpdir(), 'sguardo-bench-'));
  const store = openStore(join(folder, 'bench.db'));
  try {
    const scripted = (await shop.run([])).filter(({ info }) => info.hasScript);
    const environment = shop.settings.environments[0]!;
    const lane = new Lane(shop.crew, 0, origin, shop.settings);
    const files = [...new Set(scripted.map(({ info }) => info.file))];
    const all = async (recording: 'on' | 'off'): Promise<number> => {
      let took = 0;
      for (const file of files) {
        await lane.open(shop.bundle, file, environment, true);
        for (const { info } of scripted.filter((look) => look.info.file === file))
          took += await timed(() => lane.run(info.look, environment, { recording }));
      }
      return took;
    };
    await all('on');
    const recorded: number[] = [];
    const plain: number[] = [];
    for (let i = 0; i < rounds; i++) {
      plain.push(await all('off'));
      recorded.push(await all('on'));
    }
    const ratio = median(recorded) / median(plain);
    const run = store.runs.begin(usualRequest);
    const perStep: number[] = [];
    for (const look of scripted) {
      const before = store.blobs.size();
      // Screenshots are kept for comparing, with or without a recording.
      const pictures = look.captures.reduce(
        (sum, capture) => sum + (store.blobs.get(capture.summary.hash) ? 0 : capture.png.length),
        0,
      );
      store.results.add(run, look, new Set());
      perStep.push((store.blobs.size() - before - pictures) / look.timeline.steps.length);
    }
    const bytes = median(perStep);
    store.close();
    process.stdout.write(
      `${scripted.length} scripts: with recording ${median(recorded).toFixed(0)} ms, without ` +
        `${median(plain).toFixed(0)} ms (medians of ${rounds}); ${bytes.toFixed(0)} bytes a step (median over ` +
        `looks), database ${(statSync(join(folder, 'bench.db')).size / 1024).toFixed(0)} KiB; first of them ` +
        `${keyOf(scripted[0]!)}\n`,
    );
    return {
      text: `${ratio.toFixed(2)} and ${bytes.toFixed(0)} bytes a step`,
      limit: `at most ${ratioLimit} and under ${bytesLimit} bytes`,
      within: ratio <= ratioLimit && bytes < bytesLimit,
    };
  } finally {
    await shop.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
