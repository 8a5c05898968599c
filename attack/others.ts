/** Odd names, clocks that jump, and two services that want the same project. */
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { ended, serveByCommand, sguardo } from '../test/support/cli.ts';
import { write } from '../test/support/project.ts';
import type { Fault } from './fault.ts';
import { type Damage, type Ground, harm } from './ground.ts';

const oddNames = [
  'src/with space.look.jsx',
  'src/ünïcødé 漢字 🌊.look.jsx',
  "src/it's.look.jsx",
  'src/[brackets] (and) {more}.look.jsx',
  'src/$dollar & amp;.look.jsx',
  'src/-dash.look.jsx',
  'src/..dots...look.jsx',
  'src/percent%20%2F.look.jsx',
  'src/#hash?query.look.jsx',
  `src/${'long'.repeat(40)}.look.jsx`,
];

const oddStates = ['a/b', '../up', '.', '..', 'con', 'a\nb', '"quoted"', "it's", '__proto__', 'x'.repeat(300), '🌊'];

const named = `import { looks } from 'sguardo';
export default looks(() => <p>odd</p>, { states: Object.fromEntries([${oddStates
  .map((name) => `[${JSON.stringify(name)}, {}]`)
  .join(', ')}]) });`;

const names: Fault = {
  name: 'odd names of files and looks, approved and run again',
  tries: 1,
  files: {
    ...Object.fromEntries(
      oddNames.map((name) => [
        name,
        `import { looks } from 'sguardo';
export default looks(() => <p>odd</p>, { states: { plain: {} } });`,
      ]),
    ),
    'src/Named.look.jsx': named,
  },
  async attack(ground, _, damage) {
    const first = await ground.run({ fresh: true });
    await ground.client.decide({ kind: 'approve', all: true });
    const { tally, problems } = await ground.run({ fresh: true });
    if (tally.passed !== first.planned)
      harm(damage, 'lost', `of ${first.planned} looks ${tally.passed} passed: ${JSON.stringify(tally)}`);
    const broken = (await ground.client.runResults(first.id)).filter(({ problem }) => problem);
    for (const { file, problem } of broken) damage.notes.push(`${file}: ${problem!.message}`);
    for (const { code, message } of problems) harm(damage, 'spoiled', `${code}: ${message}`);
    await ground.inspect(damage);
  },
};

const clocks: Fault = {
  name: 'a clock that was years ahead, and years behind',
  tries: 2,
  async attack(ground, attempt, damage) {
    await ground.run();
    await ground.kill();
    const db = new Database(join(ground.root, '.sguardo/sguardo.db'));
    const tables = db.prepare<[], { name: string }>("SELECT name FROM sqlite_master WHERE type = 'table'").all();
    // Decisions cannot be changed, whoever tries.
    for (const { name } of tables.filter((one) => one.name !== 'decisions'))
      for (const column of db.pragma(`table_info(${name})`) as { name: string }[])
        if (/^(at|began|ended|since|started)$/.test(column.name))
          db.prepare(`UPDATE ${name} SET ${column.name} = ? WHERE ${column.name} IS NOT NULL`).run(
            attempt === 0 ? '2099-01-01T00:00:00.000Z' : '1971-01-01T00:00:00.000Z',
          );
    db.close();
    await ground.start();
    await ground.inspect(damage);
  },
};

/** Ten commands that begin together: each of them ends as it would alone. */
async function tenAtOnce({ root }: Ground, damage: Damage): Promise<void> {
  const commands = Array.from({ length: 10 }, (_, i) => sguardo(root, i % 5 === 4 ? 'list' : 'run'));
  for (const { code, out, err } of await Promise.all(commands))
    if (code !== 0) harm(damage, 'lost', `one of ten commands ended with ${code}: ${(err || out).slice(0, 300)}`);
}

const rivals: Fault = {
  name: 'a second service for the same project, and ten commands at once',
  tries: 2,
  async attack(ground, _, damage) {
    const second = await serveByCommand(ground.root);
    const code = await ended(second.child);
    if (code !== 0 || !second.said().includes(`already running: ${ground.url}`))
      harm(damage, 'spoiled', `the second service: ${code} ${second.said().slice(0, 200)}`);
    await tenAtOnce(ground, damage);
    await ground.inspect(damage);
  },
};

const orphans: Fault = {
  name: 'ten commands at once, with no service that runs',
  tries: 2,
  async attack(ground, _, damage) {
    await ground.kill();
    await tenAtOnce(ground, damage);
    await ground.start();
    await ground.inspect(damage);
  },
};

const vanishing: Fault = {
  name: 'folders that vanish while the service runs',
  tries: 2,
  async attack(ground, attempt, damage) {
    if (attempt === 0) rmSync(join(ground.root, 'src'), { recursive: true });
    else rmSync(join(ground.root, 'baselines'), { recursive: true });
    await ground.run({ fresh: true }).catch((error: unknown) => {
      if (/internal|inside Sguardo/.test(String(error))) harm(damage, 'spoiled', String(error));
    });
    write(ground.root, ground.innocentFiles());
    await ground.settle();
    await ground.inspect(damage);
  },
};

export const others: Fault[] = [names, clocks, rivals, orphans, vanishing];
