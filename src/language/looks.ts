/** What a look file exports: a component and its named states. */
import type { Anything } from './anything.ts';
import { fail } from '../core/problem/problem.ts';
import { nearest } from '../core/text/nearest.ts';
import { show } from '../core/value/show.ts';
import { type Answer, type AnswerInit, replyEntries, repliesOf } from './answer.ts';
import { combined } from './combine.ts';
import { checkWorld, type WorldChange, worldEntries } from './world.ts';

/** A component, whatever kind it is of and whatever its props are. */
export type AnyComponent =
  | string
  | ((...args: Anything[]) => unknown)
  | (abstract new (
      ...args: Anything[]
    ) => unknown)
  | object;

/** The props of a component that is a function of them, or a class that is made with them. */
export type PropsOf<C> = C extends (props: infer P, ...rest: Anything[]) => unknown
  ? P
  : C extends new (
        props: infer P,
        ...rest: Anything[]
      ) => unknown
    ? P
    : Record<string, unknown>;

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

/** What a script is given. */
export type ScriptContext<P, Route extends string = string> = {
  /** The props that the component was given: spies among them can be checked. */
  props: P;
  /** The look's declared answers by route: held ones can be let go, and all can be checked. */
  answers: Record<Route, Answer>;
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
  /** Why it is not run: it is told at the end of a run. */
  skip?: string;
  /** Names of the environments that it is for. */
  environments?: string[];
  /**
   * What the props can be in real use: a schema of Yup, Zod or whatever follows the Standard Schema, or a JSON Schema.
   * A look whose props contradict it is marked.
   */
  shape?: object;
  /** Another frame than the project's, or false for none. */
  frame?: AnyComponent | false;
};

/** One state of a component. */
export type LookState<
  P,
  Name extends string,
  Route extends string = string,
  Slots = Record<string, unknown>,
> = LookSettings & {
  /** Laid over the props of the file. */
  props?: Partial<P>;
  /** What stands in the component's slots, laid over that of the file. */
  slots?: Slots;
  /** A component around it that is given its props, in place of the file's. */
  render?: AnyComponent;
  /** Replies to the component's requests, laid over those of the file: `{ 'POST /api/arrivals': { status: 503 } }`. */
  answers?: { readonly [R in Route]?: AnswerInit };
  /** Starts where this look ended. */
  after?: Name;
  /** A look for every combination of these values: `each: { size: ['s', 'm'], tone: ['calm', 'gale'] }`. */
  each?: { [K in keyof P]?: readonly P[K][] };
  /** So many looks `each` may make. Default 1000. */
  most?: number;
  /** Only this look of its file is run, while you write it. */
  only?: boolean;
  /** Actions and checks, in the order in which a person would do them. */
  script?(context: ScriptContext<P, NoInfer<Route>>): Promise<void>;
};

type RequiredKeys<P> = { [K in keyof P]-?: object extends Pick<P, K> ? never : K }[keyof P];

export type LooksOf<
  P,
  Name extends string,
  Route extends string = string,
  Slots = Record<string, unknown>,
> = LookSettings & {
  /** What stands in the component's slots, by their names; `default` is the one without. */
  slots?: Slots;
  /** A component that is mounted in place of this one, and given its props: a wrapper with state, providers, slots. */
  render?: AnyComponent;
  answers?: { readonly [R in Route]?: AnswerInit };
  states: { [K in Name]: LookState<P, NoInfer<Name>, Route, Slots> };
  // A component without required props needs none here.
} & ([RequiredKeys<P>] extends [never] ? { props?: P } : { props: P });

/** A look file's default export. */
export type Looks = LookSettings & {
  readonly isLooks: true;
  component: AnyComponent;
  render: AnyComponent | null;
  props: Record<string, unknown>;
  slots: Record<string, unknown>;
  answers: Record<string, AnswerInit>;
  states: Record<string, LookState<Record<string, unknown>, string>>;
};

const ownEntries = ['location', 'storage', 'cookies', 'now', 'random'] as const;
const settingEntries = [
  'patience',
  'settle',
  'timeLimit',
  'isolate',
  'dependsOn',
  'reuse',
  'tags',
  'skip',
  'environments',
  'frame',
  'shape',
  ...ownEntries,
  ...worldEntries,
] as const;
const entries = ['props', 'slots', 'render', 'answers', 'states', ...settingEntries];
const stateEntries = [
  'props',
  'slots',
  'render',
  'answers',
  'after',
  'script',
  'each',
  'most',
  'only',
  ...settingEntries,
];

/** The compiler says so, too, but not to everybody. @throws ProblemError `look-entry` */
function checkEntries(value: unknown, known: readonly string[], where: string): void {
  if (typeof value !== 'object' || value === null) return;
  const entry = Object.keys(value).find((key) => !known.includes(key));
  if (entry === undefined) return;
  fail('look-entry', { where, entry, near: nearest(entry, known) ?? '', known: known.join(', ') });
}

function checkAnswers(answers: { readonly [route: string]: AnswerInit | undefined } | undefined, where: string): void {
  for (const [route, init = {}] of Object.entries(answers ?? {}))
    for (const reply of repliesOf(init)) checkEntries(reply, replyEntries, `${where}, the answer to ${route},`);
}

/** The least and the most that each setting may be, in milliseconds. */
const ranges = { patience: [0, 600_000], settle: [0, 600_000], timeLimit: [100, 3_600_000] } as const;

const isRecord = (value: unknown): boolean => typeof value === 'object' && value !== null && !Array.isArray(value);

/** What each part of the world may be, in words. */
const worldRules: Record<(typeof ownEntries)[number], [(value: unknown) => boolean, string]> = {
  location: [
    (value) => typeof value === 'string' && /^\/(?!\/)/.test(value),
    "an address from the root, as in '/berths'",
  ],
  storage: [isRecord, "what is stored, as in { local: { theme: 'dark' } }"],
  cookies: [isRecord, "texts by name, as in { session: 'a1' }"],
  now: [(value) => !Number.isNaN(Date.parse(String(value))), "a date, as in '2026-03-02T09:30:00Z'"],
  random: [(value) => Number.isInteger(value), 'a whole number'],
};

/** The parts of the world among what was given. @throws ProblemError `look-setting` */
function worldIn(given: LookSettings, where: string): World {
  const found: Record<string, unknown> = checkWorld(given, where);
  for (const name of ownEntries) {
    const value: unknown = given[name];
    if (value === undefined) continue;
    const [fits, wanted] = worldRules[name];
    if (!fits(value)) fail('look-setting', { where, name, value: show(value), wanted });
    found[name] = value;
  }
  return found;
}

const isNames = (value: unknown): boolean =>
  Array.isArray(value) && value.every((one: unknown) => typeof one === 'string' && one.trim() !== '');

/** How a look is chosen, among what was given. @throws ProblemError `look-setting` */
function choiceIn({ tags, skip, environments, frame, shape }: LookSettings, where: string): LookSettings {
  const names = { tags, environments };
  for (const [name, value] of Object.entries(names))
    if (value !== undefined && !isNames(value))
      fail('look-setting', { where, name, value: show(value), wanted: "a list of names, as in ['night']" });
  if (shape !== undefined && (typeof shape !== 'object' || shape === null) && typeof shape !== 'function')
    fail('look-setting', { where, name: 'shape', value: show(shape), wanted: 'a schema' });
  if (skip !== undefined && (typeof skip !== 'string' || skip.trim() === ''))
    fail('look-setting', { where, name: 'skip', value: show(skip), wanted: 'a reason, which is told' });
  return {
    ...(tags && { tags }),
    ...(environments && { environments }),
    ...(skip !== undefined && { skip }),
    ...(frame !== undefined && { frame }),
    ...(shape !== undefined && { shape }),
  };
}

/** The settings among what was given. @throws ProblemError `look-setting` */
function settingsIn(given: LookSettings, where: string): LookSettings {
  const found: LookSettings = {};
  for (const [name, [least, most]] of Object.entries(ranges) as [keyof typeof ranges, readonly [number, number]][]) {
    const value: unknown = given[name];
    if (value === undefined) continue;
    if (typeof value !== 'number' || !(value >= least && value <= most))
      fail('look-setting', { where, name, value: show(value), wanted: `a number from ${least} to ${most}` });
    found[name] = value;
  }
  for (const name of ['isolate', 'reuse'] as const) {
    const value: unknown = given[name];
    if (value === undefined) continue;
    if (typeof value !== 'boolean') fail('look-setting', { where, name, value: show(value), wanted: 'true or false' });
    found[name] = value;
  }
  Object.assign(found, worldIn(given, where), choiceIn(given, where));
  const { dependsOn } = given;
  if (dependsOn === undefined) return found;
  if (!Array.isArray(dependsOn) || !dependsOn.every((one: unknown) => typeof one === 'string' && /^[^/.]/.test(one)))
    fail('look-setting', {
      where,
      name: 'dependsOn',
      value: show(dependsOn),
      wanted: "a list of patterns from the project's root, such as ['data/**/*.json']",
    });
  return { ...found, dependsOn };
}

/** @throws ProblemError `component-missing` for what can be no component: an import that has gone wrong, mostly */
function checkComponent(component: unknown): void {
  const isOne = typeof component === 'function' || (typeof component === 'object' && component !== null);
  if (isOne || (typeof component === 'string' && component !== '')) return;
  fail('component-missing', { given: show(component) });
}

/** Declares the looks of a component. Props, and the names in `after`, are checked against it by the compiler. */
export function looks<C extends AnyComponent, const Name extends string, const Route extends string>(
  component: C,
  definition: LooksOf<PropsOf<C>, Name, Route>,
): Looks {
  checkComponent(component);
  checkEntries(definition, entries, 'What looks(…) was given');
  checkAnswers(definition.answers, 'looks(…)');
  for (const [name, state] of Object.entries<LookState<object, string>>(definition.states ?? {})) {
    checkEntries(state, stateEntries, `The look “${name}”`);
    settingsIn(state ?? {}, `The look “${name}”`);
    checkAnswers(state?.answers, `The look “${name}”`);
  }
  return {
    isLooks: true,
    ...settingsIn(definition, 'looks(…)'),
    component,
    render: definition.render ?? null,
    slots: (definition.slots ?? {}) as Record<string, unknown>,
    props: (definition.props ?? {}) as Record<string, unknown>,
    answers: (definition.answers ?? {}) as Record<string, AnswerInit>,
    states: combined(definition.states as unknown as Looks['states']),
  };
}

export const isLooks = (value: unknown): value is Looks =>
  typeof value === 'object' &&
  value !== null &&
  (value as Partial<Looks>).isLooks === true &&
  typeof (value as Looks).states === 'object';
