/**
 * What waiting costs: the scripted looks of the demo and of the kits on their own clock, against the same looks with
 * `clock: 'real'`, where waiting takes as long as it says.
 */
import { approvedBy, type Figure, keyOf, median, openWorkshop, timed } from './workshop.ts';

const projects = [
  { project: 'demo/harbour', limit: 0.5 },
  { project: 'test/kits/material', limit: 0.3 },
  { project: 'test/kits/modules', limit: 0.3 },
  { project: 'test/kits/headless', limit: 0.3 },
];
const rounds = 3;

/** The medians of both, in milliseconds. */
async function measureProject(project: string): Promise<{ looks: number; own: number; real: number }> {
  const shop = await openWorkshop(project);
  try {
    const alone = { settings: { isolate: null } };
    const first = (await shop.run([], alone)).filter(({ info }) => info.hasScript);
    const scripted = first.map(keyOf);
    const baselines = approvedBy(first);
    const own: number[] = [];
    const real: number[] = [];
    // What depends on others is found out once.
    await shop.run(scripted, { baselines, photographed: false });
    for (let i = 0; i < rounds; i++) {
      real.push(await timed(() => shop.run(scripted, { baselines, photographed: false, settings: { clock: 'real' } })));
      own.push(await timed(() => shop.run(scripted, { baselines, photographed: false })));
    }
    return { looks: scripted.length, own: median(own), real: median(real) };
  } finally {
    await shop.close();
  }
}

export async function measureClock(): Promise<Figure> {
  const ratios: string[] = [];
  let within = true;
  for (const { project, limit } of projects) {
    const { looks, own, real } = await measureProject(project);
    const ratio = own / real;
    process.stdout.write(
      `${project}: ${looks} scripted looks, real ${real.toFixed(0)} ms, own ${own.toFixed(0)} ms ` +
        `(medians of ${rounds}): ${ratio.toFixed(2)}, limit ${limit}\n`,
    );
    ratios.push(ratio.toFixed(2));
    within &&= ratio <= limit;
  }
  return { text: ratios.join(', '), limit: projects.map(({ limit }) => limit).join(', '), within };
}
