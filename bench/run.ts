/**
 * The demo's script-less looks, run with everything recorded, compared and stored, against the naive floor
 * (`naive.ts`).
 */
import { usualRequest } from '../src/core/run/run.ts';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openStore } from '../src/store/index.ts';
import { openNaive } from './naive.ts';
import { approvedBy, type Figure, keyOf, median, openWorkshop, timed } from './workshop.ts';

/** With pictures as approved that stand for equal moments, and with every capture photographed. */
const limit = 0.35;
const pictureLimit = 0.6;
const rounds = 7;

export async function measureRun(): Promise<Figure> {
  const shop = await openWorkshop();
  const folder = mkdtempSync(join(tmpdir(), 'sguardo-bench-'));
  const store = openStore(join(folder, 'bench.db'));
  try {
    const first = (await shop.run([])).filter(({ info }) => !info.hasScript);
    const patterns = first.map(keyOf);
    const baselines = approvedBy(first);
    const full = async (photographed: boolean): Promise<number> => {
      // Whoever looks at a result gives the windows the time to be ready for the next run.
      await new Promise((done) => setTimeout(done, 1000));
      return timed(async () => {
        const run = store.runs.begin({ ...usualRequest, patterns });
        const looks = await shop.run(patterns, {
          photographed,
          baselines,
          finished: (look) => void store.results.add(run, look, new Set()),
        });
        const wrong = looks.filter(({ verdict }) => verdict !== 'passed');
        if (looks.length !== patterns.length || wrong.length > 0)
          throw new Error(
            `${looks.length} of ${patterns.length} looks ran, ${wrong.length} did not pass: ` +
              `${wrong.map((look) => `${keyOf(look)} ${look.verdict}`).join(', ')}`,
          );
      });
    };
    const show = await openNaive(shop);
    const naive = (): Promise<number> =>
      timed(async () => {
        for (const { info } of first) await show(info.file, info.look);
      });
    await full(true);
    await naive();
    const ours: number[] = [];
    const pictured: number[] = [];
    const floor: number[] = [];
    for (let i = 0; i < rounds; i++) {
      floor.push(await naive());
      ours.push(await full(false));
      pictured.push(await full(true));
    }
    const ratio = median(ours) / median(floor);
    const withPictures = median(pictured) / median(floor);
    process.stdout.write(
      `${first.length} looks: ours ${median(ours).toFixed(0)} ms, photographed ${median(pictured).toFixed(0)} ms, ` +
        `naive ${median(floor).toFixed(0)} ms (medians of ${rounds})\n`,
    );
    return {
      text: `${ratio.toFixed(2)}, photographed ${withPictures.toFixed(2)}`,
      limit: `at most ${limit.toFixed(2)}, photographed ${pictureLimit.toFixed(2)}`,
      within: ratio <= limit && withPictures <= pictureLimit,
    };
  } finally {
    await shop.close();
    store.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
