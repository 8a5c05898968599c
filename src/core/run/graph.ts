/** What is known of a project's files from building it. */

export type Graph = {
  /** Of everything by which the files behind a look file could become others. */
  key: string;
  /** Files behind the Vite configuration. */
  configuration: string[];
  /** The files behind each look file, sorted; relative to the project where they lie in it. */
  closures: Record<string, string[]>;
  /** The folder of files that are served as they are. */
  publicFolder: string | null;
};
