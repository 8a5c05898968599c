/** What is known of a project's files from building it. */

/**
 * A style sheet that was made of more than its own file: of what it imports, or of all files in which it looks for
 * classes. Whoever has it depends on what came of these, not on each of them.
 */
export type MadeStyle = {
  /** Sorted; relative to the project where they lie in it. */
  files: string[];
  /** Hash of what came of them. */
  made: string;
};

export type Graph = {
  /** Of everything by which the files behind a look file could become others. */
  key: string;
  /** Files behind the Vite configuration. */
  configuration: string[];
  /** The files that each look file is built from, sorted; relative to the project where they lie in it. */
  closures: Record<string, string[]>;
  /** By the files of style sheets; `of` is a hash of what was in the files that they were made of. */
  styles: Record<string, MadeStyle & { of: string }>;
  /** The folder of files that are served as they are. */
  publicFolder: string | null;
};

/** Files by look file, and what style sheets among them were made of. */
export type Behind = { closures: Graph['closures']; styles: Record<string, MadeStyle> };

/** All files behind a look file, those that its style sheets are made of among them; null when they are not known. */
export function filesBehind(known: Behind | null, file: string): string[] | null {
  const own = known?.closures[file];
  if (!known || !own) return null;
  const made = own.flatMap((one) => known.styles[one]?.files ?? []);
  return made.length === 0 ? own : [...new Set([...own, ...made])].sort();
}

/** Every file that is known. */
export const filesKnown = ({ closures, styles }: Behind): string[] =>
  [...new Set([...Object.values(closures).flat(), ...Object.values(styles).flatMap(({ files }) => files)])].sort();
