/**
 * What explaining costs: many captures that one token has changed, against the run that brought them; and laying two
 * pictures over each other where a band was inserted, against comparing them.
 */
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { connect } from '../src/client/client.ts';
import { alignPictures } from '../src/core/picture/align.ts';
import { comparePictures } from '../src/core/picture/compare.ts';
import type { Picture } from '../src/core/picture/picture.ts';
import { numbersFrom } from '../src/core/steady/chance.ts';
import { startService } from '../src/service/service.ts';
import { sameBytes } from '../src/work/png.ts';
import { type Figure, median, runToEnd } from './workshop.ts';

const repository = join(import.meta.dirname, '..');
const limits = { each: 60, run: 1.5, alignment: 2 };
const files = 10;

/** The harbour office with so many looks of its berths, and no others. */
function lay(folder: string, looks: number): void {
  const from = join(repository, 'demo/harbour');
  const isOwn = (path: string): boolean => !/node_modules|\.sguardo|baselines/.test(path.slice(from.length));
  cpSync(from, folder, { recursive: true, filter: isOwn });
  const source = join(folder, 'src');
  for (const name of readdirSync(source)) if (name.includes('.look.')) rmSync(join(source, name));
  for (let i = 0; i < files; i++)
    writeFileSync(
      join(source, `Berths${i}.look.tsx`),
      `import { looks } from 'sguardo/react';
import { BerthCard } from './BerthCard';
const names = Array.from({ length: ${Math.ceil(looks / files)} }, (_, n) => \`C-\${n}\`);
const berths = names.map((berth) => [berth, { props: { berth } }]);
const props = { vessel: 'Aliseo', draught: 2.1, depth: 3.2, length: 11.4, onRelease() {} };
export default looks(BerthCard, { props, states: Object.fromEntries(berths) } as never);
`,
    );
}

/** Milliseconds that explaining took in a run, and that the run took before. */
async function measureRun(looks: number): Promise<{ captures: number; explaining: number; before: number }> {
  mkdirSync(join(repository, 'bench/.tmp'), { recursive: true });
  const folder = mkdtempSync(join(repository, 'bench/.tmp/time-'));
  lay(folder, looks);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  const client = connect(service.url);
  const abort = new AbortController();
  let last = 0;
  const follow = async (): Promise<void> => {
    for await (const event of client.events(abort.signal)) if (event.kind === 'look-finished') last = Date.now();
  };
  follow().catch(() => {});
  try {
    const environments = [(await client.project()).environments[0]!.name];
    await runToEnd(client, { environments });
    await client.decide({ kind: 'approve', all: true });
    const tokens = join(folder, 'src/tokens.css');
    writeFileSync(tokens, readFileSync(tokens, 'utf8').replace(/--accent: #\w+/, '--accent: #aa2244'));
    const { started, finished, tally } = await runToEnd(client, { environments });
    return { captures: tally.changed, explaining: Date.parse(finished!) - last, before: last - Date.parse(started) };
  } finally {
    abort.abort();
    await service.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A page of text, as far as comparing is concerned: rows of their own, every third one blank. */
function page(width: number, height: number): Picture {
  const number = numbersFrom(1);
  const data = new Uint8Array(width * height * 4).fill(255);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width && y % 3 !== 0; x += 1 + number(4)) data[(y * width + x) * 4] = number(256);
  return { width, height, channels: 4, data };
}

/** The time of laying two pictures over each other, as a multiple of that of comparing them. */
function measureAlignment(): { ratio: number; residue: number } {
  const before = page(1280, 800);
  const band = new Uint8Array(1280 * 12 * 4).fill(90);
  const split = 1280 * 200 * 4;
  const data = new Uint8Array(before.data.length + band.length);
  data.set(before.data.subarray(0, split));
  data.set(band, split);
  data.set(before.data.subarray(split), split + band.length);
  const now: Picture = { ...before, height: 812, data };
  const time = (work: () => unknown): number => {
    const began = performance.now();
    work();
    return performance.now() - began;
  };
  const ratios = Array.from(
    { length: 15 },
    () => time(() => alignPictures(before, now)) / time(() => comparePictures(before, now, sameBytes)),
  );
  return { ratio: median(ratios), residue: alignPictures(before, now)!.residue };
}

export async function measureExplainTime(looks = 500): Promise<Figure> {
  const { captures, explaining, before } = await measureRun(looks);
  const { ratio, residue } = measureAlignment();
  const each = explaining / Math.max(1, captures);
  const run = (before + explaining) / before;
  return {
    text:
      `${captures} changed captures explained in ${each.toFixed(1)} ms each, ` +
      `${run.toFixed(2)} times the run without; ` +
      `pictures aligned in ${ratio.toFixed(2)} of the time of comparing them, ${residue} pixels left over`,
    limit: `${limits.each} ms, ${limits.run}, ${limits.alignment}, 0`,
    within: each <= limits.each && run <= limits.run && ratio <= limits.alignment && residue === 0,
  };
}
