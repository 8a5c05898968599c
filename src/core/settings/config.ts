/** The configuration file, `sguardo.config.ts`: `export default { … } satisfies Config`. */
import type { AccessibilityConfig, AccessibilitySettings } from './accessibility.ts';
import type { Allowing, CompareConfig, Comparing } from './comparing.ts';
import type { CoverageConfig, CoverageSettings } from './coverage.ts';
import type { Environment } from './environment.ts';

export type Config = {
  /**
   * Which files are look files: glob patterns from the project's root. Default: those that end in `.look.tsx`,
   * `.look.jsx`, `.look.ts` or `.look.js`.
   */
  looks?: string[];
  /**
   * The frame: a module whose default export is a component around every look. Default `sguardo.frame.tsx` (or
   * `.jsx`, `.vue`, `.svelte`, `.ts`, `.js`), if there is one.
   */
  frame?: string;
  /** Folder of the approved baselines, or false to keep them in the service only. Default `baselines`. */
  baselines?: string | false;
  /** Environments by name; what is left out is as in the default environment. Default: one, `day`. */
  environments?: Record<string, Partial<Omit<Environment, 'name'>>>;
  /** How long checks and waits are retried, in milliseconds of the look's own time. Default 2000. */
  patience?: number;
  /** How far time is moved on before a capture while anything waits that will happen by itself. Default 1000 ms. */
  settle?: number;
  /**
   * `look`: waiting takes no real time. `real`: time is moved on no faster than a clock on the wall, for comparison.
   * Default `look`.
   */
  clock?: 'look' | 'real';
  /** How long a look may take from one step to the next, in real milliseconds; ten times that in all. Default 15000. */
  timeLimit?: number;
  /** What the clock shows when a look begins (ISO 8601). Default `2026-03-02T09:30:00Z`. */
  now?: string;
  /** Browser windows side by side. Default 4. */
  lanes?: number;
  /**
   * `look`: every look gets a fresh document. `file`: the looks of a file that run in the same window share one. By
   * default they share one once they are approved, and what does not pass there is confirmed alone.
   */
  isolate?: 'file' | 'look';
  /**
   * What of captures is compared: `{ what: 'picture' }`, `'markup'` or `'both'` (the default), parts that are left out,
   * by selector, and differences that are tolerated, each with a reason. Look files add to it.
   */
  compare?: CompareConfig;
  /**
   * The group of machines that this one belongs to, as in `process.env.CI ? 'ci' : 'laptop'`: baselines are kept for
   * each. What a family has none of is compared with the nearest other one. Default: one set of baselines for all.
   */
  family?: string;
  /** Which decisions need a reason: `rejections` (the default), or `all`. */
  reasons?: 'rejections' | 'all';
  /** The attribute by which `the.marked(…)` finds elements. Default `data-testid`. */
  markAttribute?: string;
  /**
   * What fails a look when the console gets it as an error or a warning: texts that are part of the message, or
   * patterns, as in `['Warning:', /hydration/i]`. Default: nothing.
   */
  failsOn?: (string | RegExp)[];
  /** An OpenAPI description (3.0 or 3.1, JSON or YAML): an answer that the API could not give fails its look. */
  openapi?: string;
  /** Whether a request that nobody answers fails its look (`fail`, the default), or is noted with it (`note`). */
  unanswered?: 'fail' | 'note';
  /** Origins that looks may reach for real, such as `https://tiles.example`. Default: none. */
  network?: string[];
  /** What findings of accessibility come to. */
  accessibility?: AccessibilityConfig;
  /** What `sguardo run --coverage` counts, and what it wants. */
  coverage?: CoverageConfig;
  /** How many runs are kept, with their timelines and pictures. Default 50. */
  keep?: number;
};

/** The configuration with every default filled in. */
export type Settings = {
  looks: string[];
  frame: string | null;
  baselines: string | null;
  environments: Environment[];
  patience: number;
  settle: number;
  clock: 'look' | 'real';
  timeLimit: number;
  now: string;
  lanes: number;
  isolate: 'file' | 'look' | null;
  compares: Comparing;
  allowed: Allowing[];
  reasons: 'rejections' | 'all';
  family: string | null;
  markAttribute: string;
  unanswered: 'fail' | 'note';
  openapi: string | null;
  /** Sources of regular expressions, with their flags. */
  failsOn: { source: string; flags: string }[];
  network: string[];
  accessibility: AccessibilitySettings;
  coverage: CoverageSettings;
  keep: number;
};
