/** Ten thousand looks, and a day's work in fast motion. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { write } from '../test/support/project.ts';
import type { Fault } from './fault.ts';
import { type Ground, harm, innocent, innocents } from './ground.ts';

const many = (from: number, count: number): string => `import { looks } from 'sguardo';
const Buoy = ({ n }) => <p>Buoy {n}</p>;
export default looks(Buoy, { states: Object.fromEntries(
  Array.from({ length: ${count} }, (_, i) => ['buoy ' + (${from} + i), { props: { n: ${from} + i } }])) });`;

const tenThousand: Fault = {
  name: '10,000 looks in 100 files',
  tries: 1,
  files: Object.fromEntries(Array.from({ length: 100 }, (_, i) => [`src/Many${i}.look.jsx`, many(i * 100, 100)])),
  async attack(ground, _, damage) {
    const { id } = await ground.client.startRun({ audit: 0 });
    let run = await ground.client.run(id);
    for (let waited = 0; waited < 1_800_000 && (run.status === 'queued' || run.status === 'running'); waited += 500) {
      await new Promise((done) => setTimeout(done, 500));
      run = await ground.client.run(id);
    }
    if (run.done !== 10_006) harm(damage, 'lost', `${run.done} of 10,006 looks have a verdict (${run.status})`);
    const board = await ground.client.looks();
    if (board.length !== 10_006) harm(damage, 'lost', `the board shows ${board.length} of 10,006`);
    await ground.inspect(damage);
  },
};

type Size = { memory: number; files: number; disk: number; processes: number };

const megabytes = (bytes: number): number => Math.round(bytes / 1e5) / 10;

/** What the service takes: memory of its own process, open files, disk, processes. */
function sizeOf(ground: Ground): Size {
  const status = readFileSync(`/proc/${ground.pid}/status`, 'utf8');
  const folder = join(ground.root, '.sguardo');
  const disk = readdirSync(folder).reduce((sum, name) => sum + statSync(join(folder, name)).size, 0);
  return {
    memory: megabytes(Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) * 1024),
    files: readdirSync(`/proc/${ground.pid}/fd`).length,
    disk: megabytes(disk),
    processes: ground.processes('').length,
  };
}

const runsOfADay = 500;
const colours = ['navy', 'teal', 'maroon', 'olive', 'purple', 'grey'];

const day: Fault = {
  name: `a day's work: ${runsOfADay} runs with edits and approvals`,
  tries: 1,
  async attack(ground, _, damage) {
    const sizes: Size[] = [];
    for (let i = 0; i < runsOfADay; i++) {
      write(ground.root, { [innocents[0]!]: innocent(innocents[0]!, colours[i % colours.length]) });
      const { status, problems, done, planned } = await ground.run();
      if (status !== 'finished' || problems.length > 0 || done !== planned) harm(damage, 'lost', `run ${i}: ${status}`);
      if (i % 10 === 9) await ground.client.decide({ kind: 'approve', all: true });
      if (i % 100 === 99) sizes.push(sizeOf(ground));
    }
    damage.notes.push(`after every 100 runs: ${JSON.stringify(sizes)}`);
    const [first, last] = [sizes[0]!, sizes.at(-1)!];
    if (last.memory > first.memory * 1.5 + 50) harm(damage, 'leaked', `memory: ${first.memory} to ${last.memory} MB`);
    if (last.files > first.files + 20) harm(damage, 'leaked', `open files: ${first.files} to ${last.files}`);
    if (last.processes > first.processes + 2)
      harm(damage, 'leaked', `processes: ${first.processes} to ${last.processes}`);
    if (last.disk > first.disk * 3 + 20) harm(damage, 'leaked', `disk: ${first.disk} to ${last.disk} MB`);
    await ground.settle();
    await ground.inspect(damage);
  },
};

export const load: Fault[] = [day, tenThousand];
