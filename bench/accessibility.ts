/**
 * What looking at accessibility costs a capture of 300 elements; what is found for certain on the demo, which is right;
 * and on pages that the rules were not written with, how much is invented and how much is missed.
 */
import type { StoodFinding } from '../src/core/accessibility/finding.ts';
import type { FinishedLook } from '../src/core/run/finished.ts';
import type { FindingMemory } from '../src/work/recall.ts';
import { measureContrast } from '../src/work/compare.ts';
import { Lane } from '../src/work/lane.ts';
import { type Page, pages } from './pages/src/pages.ts';
import { approvedBy, type Figure, median, openWorkshop, origin, timed, type Workshop } from './workshop.ts';

const timeLimit = 15;
const inventedLimit = 0.05;
const rounds = 30;
const runs = 5;

/** A time that no other process has made longer: the quickest quarter ends with it. */
const quick = (times: readonly number[]): number => times.toSorted((a, b) => a - b)[Math.floor(times.length / 4)]!;

type Lap = { look: string; memory: FindingMemory | null };

/** How much longer looking at a large page takes, once per round, in ms: anew, and where it is known. */
async function cost(shop: Workshop, looks: readonly [string, string]): Promise<number> {
  const environment = shop.settings.environments[0]!;
  const lane = new Lane(shop.crew, 9, origin, shop.settings);
  const [entry] = shop.bundle.entries;
  await lane.open(shop.bundle, entry!.file, environment, true);
  const run = (audit: 'end' | null, { look, memory }: Lap) =>
    timed(() => lane.run(look, environment, { audit, memory, isPhotographed: true }));
  const extra = async (lap: Lap): Promise<number> => {
    const [plain, audited]: [number[], number[]] = [[], []];
    for (let i = 0; i < rounds; i++) {
      plain.push(await run(null, lap));
      audited.push(await run('end', lap));
    }
    return quick(audited) - quick(plain);
  };
  const [still, busy] = looks;
  const { report, shots } = await lane.run(still, environment, { audit: 'end', isPhotographed: true });
  const inPage = await extra({ look: still, memory: null });
  const withStops = await extra({ look: busy, memory: null });
  // What was found on it is remembered when a run finishes a look; here there was nothing.
  const again = await extra({ look: busy, memory: { get: () => [], put: () => {} } });
  const { lines } = report.audit!;
  const png = shots.at(-1)!.png!;
  const measured: number[] = [];
  for (let i = 0; i < rounds; i++)
    measured.push(await timed(async () => void (await measureContrast({ png, lines, ratio: 1 }))));
  process.stdout.write(
    `a page of 300 elements: ${inPage.toFixed(1)} ms in the page, ${median(measured).toFixed(1)} ms in a thread for ` +
      `the contrast of ${lines.length} lines, which is measured once a picture; with 40 of 70 stops of Tab gone to ` +
      `${withStops.toFixed(1)} ms, once it is known ${again.toFixed(1)} ms (first quartiles of ${rounds})\n`,
  );
  return Math.max(inPage, again);
}

/** How much longer a run of the demo takes, a capture, when nothing is known of it, in ms. */
async function costAnew(shop: Workshop): Promise<number> {
  const looks = await shop.run([]);
  const rest = { baselines: approvedBy(looks), photographed: false };
  const [known, anew]: [number[], number[]] = [[], []];
  for (let i = 0; i < runs; i++) {
    known.push(await timed(() => shop.run([], rest)));
    anew.push(await timed(() => shop.run([], { ...rest, anew: true })));
  }
  return (quick(anew) - quick(known)) / looks.length;
}

const certainOf = ({ findings }: FinishedLook): StoodFinding[] => findings.filter(({ certain }) => certain);

/** Certain findings that are not true, and truths that were not found. */
function judge({ truth }: Page, found: readonly StoodFinding[]) {
  const isTrue = ({ rule, element }: StoodFinding): boolean =>
    truth.some(([wanted, part]) => wanted === rule && element.includes(part));
  const rules = new Set(found.map(({ rule }) => rule));
  return {
    invented: found.filter((one) => !isTrue(one)).map(({ rule, element, what }) => `${rule}: ${element}: ${what}`),
    missed: truth.filter(([rule]) => !rules.has(rule)).map(([rule]) => rule),
  };
}

export async function measureAccessibility(): Promise<Figure> {
  const demo = await openWorkshop();
  const shop = await openWorkshop('bench/pages');
  try {
    const onDemo = (await demo.run([])).flatMap(certainOf);
    const looks = await shop.run([]);
    let [found, invented, missed] = [0, 0, 0];
    for (const page of pages) {
      const certain = certainOf(looks.find(({ info }) => info.look === page.name)!);
      const told = judge(page, certain);
      found += certain.length;
      invented += told.invented.length;
      missed += told.missed.length;
      for (const line of [
        ...told.invented.map((one) => `invented ${one}`),
        ...told.missed.map((one) => `missed ${one}`),
      ])
        process.stdout.write(`${page.name}: ${line}\n`);
    }
    for (const { rule, element, what } of onDemo) process.stdout.write(`demo: ${rule}: ${element}: ${what}\n`);
    const time = await cost(shop, [pages[0]!.name, pages[1]!.name]);
    const anew = await costAnew(demo);
    const share = invented / Math.max(1, found);
    return {
      text:
        `${time.toFixed(1)} ms, of the demo with nothing known ${anew.toFixed(1)} ms, ` +
        `${onDemo.length} certain on the demo, ` +
        `${(share * 100).toFixed(1)} % of ${found} invented, ${missed} missed`,
      limit: `${timeLimit} ms, ${timeLimit} ms, 0, 5 %`,
      within: Math.max(time, anew) <= timeLimit && onDemo.length === 0 && share <= inventedLimit,
    };
  } finally {
    await demo.close();
    await shop.close();
  }
}
