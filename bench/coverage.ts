/**
 * The demo's looks, run with and without counting what they run of the sources. Each way has a browser of its own, so
 * that neither waits for windows of the other.
 */
import { approvedBy, type Figure, median, openWorkshop, timed, type Workshop } from './workshop.ts';

const limit = 1.3;
const rounds = 7;

/** How long all looks take, all pictures as approved. */
async function run(shop: Workshop, baselines: ReturnType<typeof approvedBy>, coverage: boolean): Promise<number> {
  await new Promise((done) => setTimeout(done, 1000));
  return timed(async () => {
    const looks = await shop.run([], { baselines, coverage });
    const uncounted = looks.filter((look) => (look.coverage !== null) !== coverage);
    if (uncounted.length > 0) throw new Error(`${uncounted.length} looks were not counted, or were and should not be.`);
  });
}

export async function measureCoverage(): Promise<Figure> {
  const plain = await openWorkshop();
  const counting = await openWorkshop();
  try {
    const baselines = approvedBy(await plain.run([]));
    await run(counting, baselines, true);
    await run(plain, baselines, false);
    const without: number[] = [];
    const counted: number[] = [];
    for (let i = 0; i < rounds; i++) {
      without.push(await run(plain, baselines, false));
      counted.push(await run(counting, baselines, true));
    }
    const ratio = median(counted) / median(without);
    process.stdout.write(
      `counted ${median(counted).toFixed(0)} ms, not counted ${median(without).toFixed(0)} ms (medians of ${rounds})\n`,
    );
    return { text: ratio.toFixed(2), limit: `at most ${limit.toFixed(2)}`, within: ratio <= limit };
  } finally {
    await plain.close();
    await counting.close();
  }
}
