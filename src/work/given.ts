/** Files that a look hands to its page: the project's own, or made in place. */
import { readFile, realpath } from 'node:fs/promises';
import { join, sep } from 'node:path';
import { askFailure, type GivenFile } from '../core/wire/wire.ts';

export type HeldFile = { name: string; bytes: Uint8Array };

const unlikely = /[/\\\0]/;

/** A page asks for no file outside its project, whatever its path says. @throws Error `noFile` with the path */
async function ofProject(root: string, path: string): Promise<HeldFile> {
  const missing = (): never => {
    throw new Error(askFailure.noFile + path);
  };
  const found = await realpath(join(root, path)).catch(missing);
  if (!found.startsWith((await realpath(root)) + sep)) missing();
  return { name: found.split(sep).at(-1)!, bytes: await readFile(found).catch(missing) };
}

/** Reads files, or takes them as they were made. @throws Error for one that is not there, or has no usable name */
export const givenFiles = (root: string, files: readonly GivenFile[]): Promise<HeldFile[]> =>
  Promise.all(
    files.map(async (file) => {
      if ('path' in file) return ofProject(root, file.path);
      const isUsable = !unlikely.test(file.name) && !['', '.', '..'].includes(file.name);
      if (!isUsable || Buffer.byteLength(file.name) > 255) throw new Error(`no file can be called “${file.name}”`);
      return { name: file.name, bytes: Buffer.from(file.base64, 'base64') };
    }),
  );
