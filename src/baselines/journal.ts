/**
 * Writes several files of a folder together: after a kill at any instant either all of them are as before or, once the
 * folder is looked at again, all are new. Files are first staged beside their places, then named in a journal, whose
 * appearance decides, and then moved.
 */
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { onDisk } from '../core/problem/disk.ts';
import { fail, messageOf } from '../core/problem/problem.ts';

/** What a file is to hold. */
type Content = Uint8Array | string;

/** What is to be done in a folder; paths are relative to it. Contents are asked for one at a time: they may be many. */
export type Change = { writes: Map<string, () => Content>; removals: string[] };

const journalName = '.approval.json';
const staged = (path: string): string => `${path}.next`;

/** What a write that was cut off leaves behind. */
export const isLeftover = (name: string): boolean =>
  name.endsWith('.next') || /\.\d+\.tmp$/.test(name) || /^\.approval\.json\.\d+$/.test(name);

function stage(path: string, content: Content): void {
  mkdirSync(dirname(path), { recursive: true });
  const file = openSync(staged(path), 'w');
  try {
    const bytes = typeof content === 'string' ? Buffer.from(content) : content;
    for (let at = 0; at < bytes.length; ) at += writeSync(file, bytes, at);
    // The journal must not be on the disk before what it speaks of.
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
}

type Journal = { writes: string[]; removals: string[] };

/** @throws ProblemError `journal-wrong`: it lies where anybody may have written it */
function readJournal(path: string): Journal {
  try {
    const { writes, removals } = JSON.parse(readFileSync(path, 'utf8')) as Journal;
    const isInside = (one: string): boolean => !one.split('/').includes('..') && !one.startsWith('/');
    if (![...writes, ...removals].every(isInside)) throw new Error('it names files outside its folder');
    return { writes, removals };
  } catch (error) {
    return fail('journal-wrong', { file: path, error: messageOf(error) });
  }
}

function carryOut(folder: string, { writes, removals }: Journal): void {
  for (const path of writes)
    if (existsSync(staged(join(folder, path)))) renameSync(staged(join(folder, path)), join(folder, path));
  for (const path of removals) rmSync(join(folder, path), { force: true });
  rmSync(join(folder, journalName), { force: true });
}

/** Finishes what a killed service had decided on. Call before anything in the folder is read or written. */
export function recover(folder: string): void {
  const path = join(folder, journalName);
  if (!existsSync(path)) return;
  carryOut(folder, readJournal(path));
}

/**
 * Carries out a change: all of it or nothing. `decided` is called when every file is known to be writable and the
 * change is sure to happen; when it throws, nothing has happened.
 * @throws ProblemError `disk-full`, `disk-read-only`, `disk-failed`
 */
export function carryOutTogether(folder: string, { writes, removals }: Change, decided: () => void): void {
  const paths = [...writes.keys()];
  const undo = (): void => {
    for (const path of paths) rmSync(staged(join(folder, path)), { force: true });
  };
  try {
    onDisk(folder, () => {
      mkdirSync(folder, { recursive: true });
      for (const [path, content] of writes) stage(join(folder, path), content());
      // A folder that lets files be made may not let them be replaced.
      for (const path of [...paths, ...removals]) checkReplaceable(join(folder, path));
    });
  } catch (error) {
    undo();
    throw error;
  }
  const journal = join(folder, journalName);
  try {
    onDisk(folder, () => writeFileAtomic.sync(journal, JSON.stringify({ writes: paths, removals } satisfies Journal)));
    decided();
  } catch (error) {
    rmSync(journal, { force: true });
    undo();
    throw error;
  }
  onDisk(folder, () => carryOut(folder, { writes: paths, removals }));
}

/** Throws when the place of a file is taken by something that no file can replace. */
function checkReplaceable(path: string): void {
  try {
    closeSync(openSync(path, 'r+'));
  } catch (error) {
    if ((error as { code?: string }).code !== 'ENOENT') throw error;
  }
}
