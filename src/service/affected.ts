/** Which look files a change of other files concerns. */
import type { Declared } from '../core/look/look.ts';

/** What is known of the files behind look files. */
export type Behind = {
  /** The files behind a look file, or null when they are not known. */
  closureOf(file: string): readonly string[] | null;
  /** Files that every look file depends on. */
  shared: readonly string[];
  /** The project's folder of files that are served as they are, relative to the project; null for none. */
  publicFolder: string | null;
  declared(file: string): Declared | null;
};

/** True for a look file that may come out differently since these files have changed. */
export function isAffected(file: string, changed: ReadonlySet<string>, behind: Behind): boolean {
  const { closureOf, shared, publicFolder, declared } = behind;
  if (changed.size === 0) return false;
  if (shared.some((one) => changed.has(one))) return true;
  // Which looks ask for a public file, or read one that they only name, is not known by file.
  if (publicFolder !== null && [...changed].some((one) => one.startsWith(`${publicFolder}/`))) return true;
  if (declared(file)?.looks.some(({ dependsOn }) => dependsOn !== undefined)) return true;
  return closureOf(file)?.some((one) => changed.has(one)) ?? true;
}
