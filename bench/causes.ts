/**
 * Why captures changed, against the truth: looks of the demo kits that change their page in hundreds of known ways.
 * Each is approved as it was, run again with its change, and explained.
 */
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { type Client, connect } from '../src/client/client.ts';
import type { Cluster, ClusterCapture } from '../src/core/cause/cluster.ts';
import { startService } from '../src/service/service.ts';
import type { Truth } from './mutations.ts';
import { type Figure, runToEnd } from './workshop.ts';

const repository = join(import.meta.dirname, '..');
const kits = ['harbour', 'vue', 'svelte', 'angular', 'elements'];
const limits = { right: 0.95, proved: 0.9, invented: 0.99 };

/** A kit in a folder of its own, with a look file for each of its own that changes the page of every plain look. */
function lay(around: string, kit: string, each: number, first: number): string {
  const folder = join(around, kit);
  const from = join(repository, 'demo', kit);
  mkdirSync(folder, { recursive: true });
  const isOwn = (path: string): boolean => !/node_modules|\.sguardo|baselines/.test(path.slice(from.length));
  cpSync(from, folder, { recursive: true, filter: isOwn });
  if (existsSync(join(from, 'node_modules'))) symlinkSync(join(from, 'node_modules'), join(folder, 'node_modules'));
  const source = join(folder, 'src');
  writeFileSync(join(source, 'mutations.ts'), readFileSync(join(repository, 'bench/mutations.ts')));
  switchOn(folder, false);
  let seed = first;
  for (const name of readdirSync(source).filter((one) => /\.look\.tsx?$/.test(one))) {
    const base = name.replace(/\.look\.tsx?$/, '');
    writeFileSync(join(source, name.replace('.look.', '.base.')), readFileSync(join(source, name)));
    rmSync(join(source, name));
    writeFileSync(
      join(source, `${base}.look.ts`),
      `import base from './${base}.base';
import { mutate } from './mutations';
import { isOn } from './switch';
const plain = Object.entries(base.states).filter(([, state]) => !state.script && !state.after && !state.skip);
const states = Object.fromEntries(Array.from({ length: ${each} }, (_, i) => {
  const [name, state] = plain[i % plain.length];
  const seed = ${seed} + i;
  return [\`\${name} \${seed}\`, { ...state, script: async () => mutate(seed, isOn) }];
}));
export default { ...base, states };
`,
    );
    seed += each;
  }
  return folder;
}

const switchOn = (folder: string, isOn: boolean): void =>
  writeFileSync(join(folder, 'src/switch.ts'), `export const isOn = ${isOn};\n`);

type Judged = { name: string; truths: Truth[]; causes: Cluster[]; proof: ClusterCapture['proof'] };

/** What was done to a page, by what it has said. */
async function truthsOf(client: Client, result: number): Promise<Truth[]> {
  const { marks } = await client.timeline(result);
  const said = marks.find(({ lane, title }) => lane === 'console' && title.startsWith('truth '));
  return said ? (JSON.parse(said.title.slice('truth '.length)) as Truth[]) : [];
}

const isTold = ({ kinds, says }: Truth, { kind, title, before, now }: Cluster): boolean =>
  kinds.includes(kind) && [title, before, now].some((text) => text?.includes(says));

async function judged(client: Client): Promise<Judged[]> {
  const { causes, unexplained } = await client.causes();
  const byCapture = new Map<number, { name: string; causes: { cluster: Cluster; capture: ClusterCapture }[] }>();
  for (const cluster of causes)
    for (const capture of cluster.captures) {
      const known = byCapture.get(capture.result) ?? { name: `${capture.component} ${capture.look}`, causes: [] };
      known.causes.push({ cluster, capture });
      byCapture.set(capture.result, known);
    }
  for (const { result, component, look } of unexplained)
    byCapture.set(result, { name: `${component} ${look}`, causes: [] });
  const all: Judged[] = [];
  for (const [result, { name, causes: found }] of byCapture) {
    found.sort((one, other) => (other.capture.pixels ?? 0) - (one.capture.pixels ?? 0));
    const truths = await truthsOf(client, result);
    const proof = found[0]?.capture.proof ?? null;
    all.push({ name, truths, causes: found.map(({ cluster }) => cluster), proof });
  }
  return all;
}

/** Every truth is among the first causes. */
const isRight = ({ truths, causes }: Judged): boolean =>
  truths.every((truth) => causes.slice(0, truths.length).some((cause) => isTold(truth, cause)));

const isInvented = ({ truths, causes }: Judged): boolean => causes.length > truths.length;

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`;

async function measureKit(around: string, kit: string, each: number, first: number) {
  const folder = lay(around, kit, each, first);
  const service = await startService({ config: join(folder, 'sguardo.config.ts') });
  try {
    const client = connect(service.url);
    const environments = [(await client.project()).environments[0]!.name];
    await runToEnd(client, { environments });
    await client.decide({ kind: 'approve', all: true });
    switchOn(folder, true);
    const run = await runToEnd(client, { environments });
    const took = Date.parse(run.finished!) - Date.parse(run.started);
    process.stdout.write(`${kit}: ${run.done} looks, ${run.tally.changed} changed, ${(took / 1000).toFixed(1)} s\n`);
    return await judged(client);
  } finally {
    await service.close();
  }
}

/** Measures over the kits; `each` is how many changes every look file gets. */
export async function measureCauses(each = 26, ...only: number[]): Promise<Figure> {
  mkdirSync(join(repository, 'bench/.tmp'), { recursive: true });
  const around = mkdtempSync(join(repository, 'bench/.tmp/explain-'));
  const all: Judged[] = [];
  try {
    const chosen = kits.filter((_, i) => only.length === 0 || only.includes(i));
    for (const kit of chosen) all.push(...(await measureKit(around, kit, each, 1 + kits.indexOf(kit) * 1000)));
  } finally {
    rmSync(around, { recursive: true, force: true });
  }
  for (const one of all) {
    const wrong = [
      ...(isRight(one) ? [] : ['wrong']),
      ...(isInvented(one) ? ['invented'] : []),
      ...(one.proof === 'proved' ? [] : [`${one.proof}`]),
    ];
    if (wrong.length === 0) continue;
    const truths = one.truths.map(({ mutation, says }) => `${mutation} “${says}”`).join(' + ');
    process.stdout.write(`  ${wrong.join(', ')}: ${one.name}: ${truths}\n`);
    for (const { title } of one.causes.slice(0, 5)) process.stdout.write(`      ${title}\n`);
  }
  const share = (fits: (one: Judged) => boolean): number => all.filter(fits).length / Math.max(1, all.length);
  const [right, proved, sober] = [
    share(isRight),
    share(({ proof }) => proof === 'proved'),
    share((one) => !isInvented(one)),
  ];
  return {
    text:
      `${all.length} changes: ${percent(right)} right, ${percent(proved)} proved, ` +
      `${percent(sober)} without an invented cause`,
    limit: `at least ${percent(limits.right)}, ${percent(limits.proved)}, ${percent(limits.invented)}`,
    within: right >= limits.right && proved >= limits.proved && sober >= limits.invented,
  };
}
