/** Disks that are full or read-only, and files on them that are not what they were. */
import { spawnSync } from 'node:child_process';
import {
  closeSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { afterwards } from '../test/support/afterwards.ts';
import { freshFolder } from '../test/support/project.ts';
import type { Fault } from './fault.ts';
import { type Damage, type Ground, harm } from './ground.ts';

/** A small disk of its own, where this machine lets us have one. */
function smallDisk(): string | null {
  const folder = freshFolder();
  if (spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', folder]).status !== 0) return null;
  afterwards(() => spawnSync('umount', ['-l', folder]));
  return join(folder, 'p');
}

/** Takes all the space of a disk but so many bytes. */
function fill(folder: string, rest: number): string {
  const ballast = join(folder, '../ballast');
  const spare = join(folder, '../spare');
  writeFileSync(spare, Buffer.alloc(rest));
  for (let size = 1 << 20; size >= 1024; size /= 2)
    try {
      for (;;) writeFileSync(ballast, Buffer.alloc(size), { flag: 'a' });
    } catch {
      // Smaller pieces may still fit.
    }
  rmSync(spare);
  return ballast;
}

const remount = (root: string, how: 'ro' | 'rw'): void =>
  void spawnSync('mount', ['-o', `remount,${how}`, join(root, '..')]);

/** A run that the disk refuses says that it is the disk. */
async function refused(ground: Ground, damage: Damage, codes: readonly string[]): Promise<void> {
  try {
    const { problems } = await ground.run({ fresh: true, repeat: 3 });
    for (const { code, message } of problems)
      if (!codes.includes(code)) harm(damage, 'spoiled', `told as ${code}: ${message}`);
  } catch (error) {
    if (!/disk|space|read-only/i.test(String(error))) harm(damage, 'spoiled', `told as: ${String(error)}`);
  }
}

const full: Fault = {
  name: 'a disk that is full during a run',
  tries: 4,
  root: smallDisk,
  async attack(ground, attempt, damage) {
    const ballast = fill(ground.root, [0, 4096, 40_000, 400_000][attempt]!);
    await refused(ground, damage, ['disk-full']);
    rmSync(ballast);
    await ground.inspect(damage);
  },
};

const readOnly: Fault = {
  name: 'a disk that becomes read-only during a run',
  tries: 3,
  root: smallDisk,
  async attack(ground, _, damage) {
    remount(ground.root, 'ro');
    await refused(ground, damage, ['disk-read-only', 'disk-failed', 'disk-full']);
    remount(ground.root, 'rw');
    await ground.inspect(damage);
  },
};

/** What is done to a file that nobody expects. */
const spoilings: Record<string, (path: string) => void> = {
  emptied: (path) => truncateSync(path, 0),
  'cut off': (path) => truncateSync(path, Math.floor(readFileSync(path).length / 2)),
  garbled: (path) => {
    const file = openSync(path, 'r+');
    writeSync(file, Buffer.from('garbage garbage garbage'), 0, 23, Math.floor(readFileSync(path).length / 3));
    closeSync(file);
  },
  'replaced by text': (path) => writeFileSync(path, 'not what you think'),
  'replaced by JSON': (path) => writeFileSync(path, '{"root": [], "nodes": null}'),
};

/** A baseline that is not one: the run says which, and the others are compared as ever. */
const baseline = (ending: string): Fault => ({
  name: `an approved ${ending} spoiled in the folder of baselines`,
  tries: Object.keys(spoilings).length,
  async attack(ground, attempt, damage) {
    const folder = join(ground.root, 'baselines');
    const names = readdirSync(folder, { recursive: true }).map(String);
    const name = names.filter((one) => one.endsWith(ending)).sort()[0]!;
    const path = join(folder, name);
    const before = readFileSync(path);
    const [how, spoil] = Object.entries(spoilings)[attempt]!;
    spoil(path);
    try {
      const { tally, problems } = await ground.run({ fresh: true });
      if (tally.passed < 5) harm(damage, 'spoiled', `${name} ${how}: ${JSON.stringify(tally)}`);
      for (const { code } of problems) if (code === 'internal') harm(damage, 'spoiled', `${name} ${how}: ${code}`);
    } catch (error) {
      harm(damage, 'dead', `${name} ${how}: ${String(error)}`);
    }
    writeFileSync(path, before);
    await ground.inspect(damage);
  },
});

/** Files that a project has beside: a message says what is wrong, and with which file. */
const project = (name: string, code: RegExp): Fault => ({
  name: `${name} spoiled`,
  tries: Object.keys(spoilings).length,
  async attack(ground, attempt, damage) {
    const path = join(ground.root, name);
    writeFileSync(path, '{}\n');
    Object.values(spoilings)[attempt]!(path);
    const told = await ground.run({ fresh: true }).then(
      ({ problems }) => problems.map((one) => `${one.code} ${one.message}`).join('; '),
      (error: unknown) => String(error),
    );
    if (/internal|inside Sguardo/.test(told) || (told !== '' && !code.test(told)))
      harm(damage, 'spoiled', `${name}: ${told}`);
    rmSync(path);
    await ground.inspect(damage);
  },
});

/** Records that cannot be read: the service says so, keeps them, and the folder's baselines still count. */
const records: Fault = {
  name: 'the database spoiled while no service runs',
  tries: Object.keys(spoilings).length,
  async attack(ground, attempt, damage) {
    await ground.kill();
    const path = join(ground.root, '.sguardo/sguardo.db');
    for (const beside of ['-wal', '-shm']) rmSync(path + beside, { force: true });
    const before = readFileSync(path);
    const [how, spoil] = Object.entries(spoilings)[attempt]!;
    spoil(path);
    try {
      await ground.start();
      // What is there may still be enough to work with, or the runs say what is wrong.
      const told = await ground.run({ fresh: true }).then(
        ({ problems, tally }) =>
          problems.length > 0 ? problems.map(({ code }) => code).join() : JSON.stringify(tally),
        (error: unknown) => String(error),
      );
      if (/internal/.test(told)) harm(damage, 'spoiled', `${how}: ${told}`);
      await ground.kill();
    } catch (error) {
      const said = String(error);
      if (!/sguardo\.db/.test(said) || / {4}at /.test(said)) harm(damage, 'spoiled', `${how}: ${said.slice(0, 300)}`);
    }
    for (const beside of ['-wal', '-shm']) rmSync(path + beside, { force: true });
    writeFileSync(path, before);
    await ground.start();
    await ground.inspect(damage);
  },
};

export const disks: Fault[] = [full, readOnly];
export const files: Fault[] = [
  baseline('.png'),
  baseline('.moment'),
  project('sguardo.known.json', /sguardo\.known/),
  records,
];
