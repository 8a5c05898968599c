/** Keeps props from the stage in look files, and takes that back. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import type { Change, KeepLinesRequest, KeepRequest, KeptFile } from '../core/api/api.ts';
import type { Settings } from '../core/settings/config.ts';
import { onDisk } from '../core/problem/disk.ts';
import { fail } from '../core/problem/problem.ts';
import { hashOf } from '../store/index.ts';
import { findLookFiles, keepInFile } from '../work/index.ts';

/** In what two versions of a file differ: the lines between what both begin and end with. */
export function changeOf(before: string, after: string): Change {
  const from = before.split(/\r?\n/);
  const to = after.split(/\r?\n/);
  let start = 0;
  while (start < from.length && start < to.length && from[start] === to[start]) start++;
  let end = 0;
  const most = Math.min(from.length, to.length) - start;
  while (end < most && from.at(-1 - end) === to.at(-1 - end)) end++;
  return { line: start + 1, removed: from.slice(start, from.length - end), added: to.slice(start, to.length - end) };
}

const linesIn = ({ look, as, lines, before, from }: KeepLinesRequest) => ({ look, as, lines, before, from });

export type Keeps = {
  keep(request: KeepRequest | KeepLinesRequest): Promise<KeptFile>;
  undo(file: string, seen: string): Promise<KeptFile>;
};

/** Look files of a project that are changed for somebody who looks on. */
export function keepsOf(root: string, settings: () => Promise<Settings>): Keeps {
  /** What files were before they were changed here, newest last. */
  const before = new Map<string, { text: string; hash: string }[]>();

  async function read(file: string): Promise<{ path: string; text: string }> {
    const known = await findLookFiles(root, await settings());
    if (!known.includes(file)) return fail('not-found', { what: `look file ${file}` });
    const path = join(root, file);
    return { path, text: readFileSync(path, 'utf8') };
  }

  function write(path: string, file: string, from: string, to: string): KeptFile {
    onDisk(path, () => writeFileAtomic.sync(path, to));
    return { file, change: changeOf(from, to), hash: hashOf(to), isWritten: true };
  }

  return {
    /** @throws ProblemError `not-found`, `keep-unclear`, `keep-conflict` */
    async keep(request) {
      const { file, look, as, seen, write: isWritten } = request;
      const what = 'lines' in request ? linesIn(request) : { look, as, props: request.props };
      const { path, text } = await read(file);
      if (seen !== null && seen !== hashOf(text)) return fail('keep-conflict', { file });
      const kept = await keepInFile(file, text, what);
      if ('why' in kept) return fail('keep-unclear', { file, why: kept.why });
      // For now it is only shown; what is written then has to be this.
      if (!isWritten) return { file, change: changeOf(text, kept.text), hash: hashOf(text), isWritten: false };
      const written = write(path, file, text, kept.text);
      before.set(file, [...(before.get(file) ?? []), { text, hash: written.hash }].slice(-50));
      return written;
    },
    /** @throws ProblemError `not-found`, `keep-conflict` when somebody has changed the file since */
    async undo(file, seen) {
      const { path, text } = await read(file);
      const known = before.get(file) ?? [];
      const last = known.at(-1);
      if (!last || last.hash !== seen || hashOf(text) !== seen) return fail('keep-conflict', { file });
      before.set(file, known.slice(0, -1));
      return write(path, file, text, last.text);
    },
  };
}
