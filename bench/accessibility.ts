/**
 * What looking at accessibility costs a capture of 300 elements; what is found for certain on the demo, which is right;
 * and on pages that the rules were not written with, how much is invented and how much is missed.
 */
import type { StoodFinding } from '../src/core/accessibility/finding.ts';
import type { FinishedLook } from '../src/core/run/finished.ts';
import { measureContrast } from '../src/work/compare.ts';
import { Lane } from '../src/work/lane.ts';
import { type Page, pages } from './pages/src/pages.ts';
import { type Figure, median, openWorkshop, origin, timed, type Workshop } from './workshop.ts';

const timeLimit = 15;
const inventedLimit = 0.05;
const rounds = 40;

/** How much longer the large page takes with looking at it, and how long its text takes to be measured, in ms. */
async function cost(shop: Workshop, look: string): Promise<number> {
  const environment = shop.settings.environments[0]!;
  const lane = new Lane(shop.crew, 9, origin, shop.settings);
  const [entry] = shop.bundle.entries;
  await lane.open(shop.bundle, entry!.file, environment, true);
  const run = (audit: 'end' | null) => timed(() => lane.run(look, environment, { audit, isPhotographed: true }));
  const [plain, audited]: [number[], number[]] = [[], []];
  const execution = await lane.run(look, environment, { audit: 'end', isPhotographed: true });
  for (let i = 0; i < rounds; i++) {
    plain.push(await run(null));
    audited.push(await run('end'));
  }
  const { lines } = execution.report.audit!;
  const png = execution.shots.at(-1)!.png!;
  const measured: number[] = [];
  for (let i = 0; i < rounds; i++)
    measured.push(await timed(async () => void (await measureContrast({ png, lines, ratio: 1 }))));
  const inPage = median(audited) - median(plain);
  process.stdout.write(
    `the large page: ${inPage.toFixed(1)} ms in the page, ${median(measured).toFixed(1)} ms in a thread for the ` +
      `contrast of ${lines.length} lines, which is measured once a picture (medians of ${rounds})\n`,
  );
  return inPage;
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
    const time = await cost(shop, pages[0]!.name);
    const share = invented / Math.max(1, found);
    return {
      text:
        `${time.toFixed(1)} ms, ${onDemo.length} certain on the demo, ` +
        `${(share * 100).toFixed(1)} % of ${found} invented, ${missed} missed`,
      limit: `${timeLimit} ms, 0, 5 %`,
      within: time <= timeLimit && onDemo.length === 0 && share <= inventedLimit,
    };
  } finally {
    await demo.close();
    await shop.close();
  }
}
