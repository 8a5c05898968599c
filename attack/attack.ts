/**
 * `npm run attack [-- area …]`: does to Sguardo whatever may happen to it, and counts what was lost, spoiled and
 * leaked, and how often the service was gone. The tables of the areas in docs/reliability.md are written anew. The
 * exit code is 1 when anything was harmed.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { endAll } from '../test/support/afterwards.ts';
import { repository } from '../test/support/project.ts';
import { disks, files } from './disks.ts';
import type { Fault } from './fault.ts';
import { type Damage, Ground, harm, unharmed } from './ground.ts';
import { kills } from './kills.ts';
import { load } from './load.ts';
import { lookFiles, looks } from './looks.ts';
import { others } from './others.ts';
import { requests } from './requests.ts';

const areas: Record<string, Fault[]> = { kills, disks, files, looks: [...looks, ...lookFiles], requests, others, load };

type Row = { fault: Fault; damage: Damage; tries: number; took: number };

async function carryOut(fault: Fault): Promise<Row> {
  const began = performance.now();
  const damage = unharmed();
  const root = fault.root ? fault.root() : undefined;
  let tries = 0;
  if (root === null) damage.notes.push('not tried: this machine lets nobody mount a disk');
  else
    try {
      const ground = await Ground.prepare(fault.files, root);
      for (; tries < fault.tries; tries++) await fault.attack(ground, tries, damage);
      await ground.close(damage);
    } catch (error) {
      harm(damage, 'dead', error instanceof Error ? (error.stack ?? error.message) : String(error));
    }
  await endAll();
  return { fault, damage, tries, took: Math.round((performance.now() - began) / 1000) };
}

const line = ({ fault, tries, damage }: Row): string =>
  `| ${fault.name} | ${tries} | ${damage.lost} | ${damage.spoiled} | ${damage.leaked} | ${damage.dead} |`;

const isHarmed = ({ damage }: Row): boolean => damage.lost + damage.spoiled + damage.leaked + damage.dead > 0;

function table(rows: readonly Row[]): string {
  const head = '| what is done | times | lost | spoiled | leaked | dead |\n| --- | --- | --- | --- | --- | --- |';
  return [head, ...rows.map(line)].join('\n');
}

/** Puts the table of an area into the page that tells of it. */
function record(area: string, rows: readonly Row[]): void {
  const path = join(repository, 'docs/reliability.md');
  const text = readFileSync(path, 'utf8');
  const [began, ended] = [`<!-- attack: ${area} -->`, `<!-- end of ${area} -->`];
  const [from, to] = [text.indexOf(began), text.indexOf(ended)];
  if (from < 0 || to < 0) throw new Error(`docs/reliability.md has no place for ${area}.`);
  const told = `${new Date().toISOString().slice(0, 10)}:\n\n${table(rows)}`;
  writeFileSync(path, `${text.slice(0, from)}${began}\n${told}\n\n${text.slice(to)}`);
}

/** Carries out the faults of an area; true when nothing was harmed. */
async function attack(area: string): Promise<boolean> {
  const rows: Row[] = [];
  for (const fault of areas[area]!) {
    const row = await carryOut(fault);
    rows.push(row);
    const mark = isHarmed(row) ? '✗' : '✓';
    process.stdout.write(`${mark} ${area}: ${fault.name} (${row.tries} times, ${row.took} s)\n`);
    for (const note of row.damage.notes) process.stdout.write(`    ${note}\n`);
  }
  process.stdout.write(`\n${table(rows)}\n\n`);
  record(area, rows);
  return !rows.some(isHarmed);
}

const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !Object.hasOwn(areas, name));
if (unknown.length > 0) {
  process.stderr.write(`There is no area ${unknown.join(', ')}. Areas are: ${Object.keys(areas).join(', ')}.\n`);
  process.exit(2);
}
let isUnharmed = true;
for (const area of asked.length > 0 ? asked : Object.keys(areas)) isUnharmed = (await attack(area)) && isUnharmed;
process.exit(isUnharmed ? 0 : 1);
