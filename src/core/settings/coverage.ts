/** What coverage counts, and what is wanted of it. */

/** Parts of what could be run that have to be run, in percent. */
export type Thresholds = { lines?: number; branches?: number; functions?: number };

export type CoverageConfig = {
  /** Sources that count, also where no look loads them: glob patterns. Default `src/**`; all where there is no src. */
  include?: string[];
  /** Those among them that do not count; look files, tests, declarations and configurations never do. */
  exclude?: string[];
  /** What the sources of a pattern need together, as in `{ 'src/fees/**': { lines: 90 } }`: a run with less fails. */
  thresholds?: Record<string, Thresholds>;
};

export type CoverageSettings = { include: string[]; exclude: string[]; thresholds: Record<string, Thresholds> };
