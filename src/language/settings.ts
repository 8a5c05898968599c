/** What a look file may say beside the configuration: how its looks are run and chosen, and the world around them. */
import { type Budget, isBudget } from '../core/timing/budget.ts';
import { costKinds } from '../core/timing/costs.ts';
import type { AnyComponent } from './component.ts';
import { type Accept, acceptRule } from './accept.ts';
import { type Compare, compareRule } from './compare.ts';
import { givenBy, type Rule, type WorldChange, worldRules } from './world.ts';

/** The world around the component when a look begins. */
export type World = WorldChange & {
  /** The address that the component sees, from the root: `/berths?tide=low#north`. */
  location?: string;
  /** What is in the browser's storage; anything but text is stored as JSON. */
  storage?: { local?: Record<string, unknown>; session?: Record<string, unknown> };
  cookies?: Record<string, string>;
  /** What the clock shows when the look begins (ISO 8601). */
  now?: string;
  /** The seed of chance. */
  random?: number;
};

/**
 * The tags that a project uses, for the compiler to know: `declare module 'sguardo' { interface Tags { slow: true } }`.
 * Without such a declaration any text is one.
 */
// biome-ignore lint/suspicious/noEmptyInterface: projects add to it
export interface Tags {}

type Tag = keyof Tags extends never ? string : keyof Tags & string;

/** What a look file may say beside the configuration, for all of its looks or for one. */
export type LookSettings = World & {
  /** How long checks and waits are retried, in milliseconds of the look's own time. */
  patience?: number;
  /** How far time is moved on before a capture while anything waits that will happen by itself, in milliseconds. */
  settle?: number;
  /** How long it may take from one step to the next, in real milliseconds. */
  timeLimit?: number;
  /** Whether it gets a document of its own. */
  isolate?: boolean;
  /**
   * Files that it depends on although nothing of its code imports them, as glob patterns from the project's root: when
   * one changes, its result is not taken over from an earlier run.
   */
  dependsOn?: string[];
  /** False for a look that is run every time, whether anything has changed or not. */
  reuse?: boolean;
  /** Names by which looks are run together: `sguardo run --tag slow`. Those of a file and of its looks add up. */
  tags?: Tag[];
  /** Why it is not run; shown at the end of a run and on the board. */
  skip?: string;
  /** Names of the environments that it is for. */
  environments?: string[];
  /**
   * What the props can be in real use: a schema of Yup, Zod or whatever follows the Standard Schema, or a JSON Schema.
   * A look whose props contradict it is marked.
   */
  shape?: object;
  /** What of its captures is compared with their baselines. */
  compare?: Compare;
  /** Findings of accessibility that stay, each with a reason. Those of a file and of its looks add up. */
  accept?: Accept[];
  /**
   * What it is to look like: a picture or PDF of the project, by its path from the root or with `./` from the look
   * file, or an address. The handbook shows it beside the look, and lays pictures and PDFs over it.
   */
  reference?: string;
  /**
   * What it may cost: milliseconds of `script`, `style`, `layout` and `paint`, the `longest` task, how many `longTasks`
   * of more than 50 ms, layout `shift`, `renders` of React, and milliseconds `toPaint` from an input. Held against what
   * `sguardo run --timing` measures.
   */
  budget?: Budget;
  /** Another frame than the project's, or false for none. */
  frame?: AnyComponent | false;
};

const isRecord = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value);

const isText = (value: unknown): boolean => typeof value === 'string' && value.trim() !== '';

const within = (least: number, most: number): Rule => [
  (value) => typeof value === 'number' && value >= least && value <= most,
  `a number from ${least} to ${most}`,
];

const truth: Rule = [(value) => typeof value === 'boolean', 'true or false'];

const names: Rule = [(value) => Array.isArray(value) && value.every(isText), "a list of names, as in ['night']"];

const isPattern = (value: unknown): boolean => typeof value === 'string' && /^[^/.]/.test(value);

const rules: Record<keyof LookSettings, Rule> = {
  ...worldRules,
  compare: compareRule,
  accept: acceptRule,
  patience: within(0, 600_000),
  settle: within(0, 600_000),
  timeLimit: within(100, 3_600_000),
  isolate: truth,
  reuse: truth,
  dependsOn: [
    (value) => Array.isArray(value) && value.every(isPattern),
    "a list of patterns from the project's root, such as ['data/**/*.json']",
  ],
  tags: names,
  environments: names,
  skip: [isText, 'a reason, as a text'],
  budget: [isBudget, `numbers by name, as in { script: 20, longest: 50 }; the names are ${costKinds.join(', ')}`],
  reference: [isText, "a path or an address, as in './BerthCard.png'"],
  frame: [(value) => value === false || typeof value === 'function' || isRecord(value), 'a component, or false'],
  shape: [(value) => typeof value === 'function' || isRecord(value), 'a schema'],
  location: [
    (value) => typeof value === 'string' && /^\/(?!\/)/.test(value),
    "an address from the root, as in '/berths'",
  ],
  storage: [isRecord, "what is stored, as in { local: { theme: 'dark' } }"],
  cookies: [isRecord, "texts by name, as in { session: 'a1' }"],
  now: [(value) => !Number.isNaN(Date.parse(String(value))), "a date, as in '2026-03-02T09:30:00Z'"],
  random: [(value) => Number.isInteger(value), 'a whole number'],
};

/** The entries of what may be said for a file or a look. */
export const settingEntries = Object.keys(rules);

/** The settings among what was given. @throws ProblemError `look-setting` */
export const settingsIn = (given: LookSettings, where: string): LookSettings => givenBy(rules, given, where);
