/**
 * Lets the project's plugins read other texts than files hold. The bundler asks a plugin of ours for modules; what is
 * imported by style sheets, and what compilers read by themselves, comes straight from the disk.
 */
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

type Texts = Readonly<Record<string, string>>;

/** The text that is taken for what a file holds, or undefined. */
function textFor(instead: Texts, file: unknown): string | undefined {
  if (typeof file !== 'string' && !(file instanceof URL)) return undefined;
  const path = file instanceof URL ? (file.protocol === 'file:' ? fileURLToPath(file) : '') : resolve(file);
  return Object.hasOwn(instead, path) ? instead[path] : undefined;
}

const encodingOf = (options: unknown): BufferEncoding | null | undefined =>
  typeof options === 'string'
    ? (options as BufferEncoding)
    : ((options as { encoding?: BufferEncoding | null } | null | undefined)?.encoding ?? null);

/** A text as whoever reads a file wants it: as text, or as bytes. */
const given = (text: string, options: unknown): string | Buffer => (encodingOf(options) ? text : Buffer.from(text));

/** Does some work while files are read as `instead` says. Nothing else may read files in this process meanwhile. */
export async function readingInstead<T>(instead: Texts, work: () => Promise<T>): Promise<T> {
  if (Object.keys(instead).length === 0) return work();
  const { readFile, readFileSync, promises } = fs;
  const { readFile: readLater } = promises;
  const patched = fs as unknown as Record<string, unknown>;
  patched.readFileSync = (file: unknown, options?: unknown) => {
    const text = textFor(instead, file);
    return text === undefined ? readFileSync(file as string, options as null) : given(text, options);
  };
  patched.readFile = (file: unknown, ...rest: unknown[]) => {
    const text = textFor(instead, file);
    if (text === undefined) return (readFile as (...all: unknown[]) => void)(file, ...rest);
    const heard = rest.at(-1) as (error: null, data: unknown) => void;
    queueMicrotask(() => heard(null, given(text, rest.length > 1 ? rest[0] : null)));
  };
  (promises as unknown as Record<string, unknown>).readFile = async (file: unknown, options?: unknown) => {
    const text = textFor(instead, file);
    return text === undefined ? readLater(file as string, options as null) : given(text, options);
  };
  // Modules that have imported them by name get these as well.
  syncBuiltinESMExports();
  try {
    return await work();
  } finally {
    Object.assign(fs, { readFile, readFileSync });
    promises.readFile = readLater;
    syncBuiltinESMExports();
  }
}
