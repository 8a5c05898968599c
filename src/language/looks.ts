/** What a look file exports: a component and its named states. */
import { fail } from '../core/problem/problem.ts';
import { nearest } from '../core/text/nearest.ts';
import { show } from '../core/value/show.ts';
import { type Answer, type AnswerInit, replyEntries, repliesOf } from './answer.ts';
import { combined } from './combine.ts';
import type { AnyComponent, PropsOf } from './component.ts';
import { type LookSettings, settingEntries, settingsIn } from './settings.ts';

/** What a script is given. */
export type ScriptContext<P, Route extends string = string> = {
  /** The props that the component was given: spies among them can be checked. */
  props: P;
  /** The look's declared answers by route: held ones can be let go, and all can be checked. */
  answers: Record<Route, Answer>;
};

/** One state of a component. */
export type LookState<
  P,
  Name extends string,
  Route extends string = string,
  Slots = Record<string, unknown>,
> = LookSettings & {
  /** Laid over the props of the file. A callback that neither gives is a spy; `onSort: undefined` gives none. */
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

/** True for a function that is only told something: where it is not given, a spy is. */
type Hears<F> =
  NonNullable<F> extends (...args: never[]) => infer R
    ? 0 extends 1 & R
      ? false
      : [R] extends [void | Promise<void>]
        ? true
        : false
    : false;

/**
 * The props that looks give: those by which a component calls back need not be among them. Of props of several shapes
 * each is one.
 */
type GivenProps<P> = P extends unknown
  ? { [K in keyof P as Hears<P[K]> extends true ? never : K]: P[K] } & {
      [K in keyof P as Hears<P[K]> extends true ? K : never]?: P[K];
    }
  : never;

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
} & ([RequiredKeys<GivenProps<P>>] extends [never] ? { props?: GivenProps<P> } : { props: GivenProps<P> });

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

/** True for `<BerthCard />` as React and its kin make it: what a component has been made into already. */
const isMade = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && '$$typeof' in value && 'props' in value;

/** @throws ProblemError `component-missing` for what can be no component: an import that has gone wrong, mostly */
function checkComponent(component: unknown): void {
  const isOne = typeof component === 'function' || (typeof component === 'object' && component !== null);
  if (isMade(component)) fail('component-missing', { given: 'an element', isMade: 1 });
  if (isOne || (typeof component === 'string' && component !== '')) return;
  fail('component-missing', { given: show(component) });
}

type Kind = { fits(value: unknown): boolean; wanted: string };

const record = (wanted: string): Kind => ({
  fits: (value) => typeof value === 'object' && value !== null && !Array.isArray(value),
  wanted,
});

/** What entries have to be that nothing else looks at before they are used. */
const kinds: Record<string, Kind> = {
  props: record("an object: { station: 'Molo Est' }"),
  slots: record("an object: { default: 'Moored' }"),
  render: {
    fits: (value) => ['function', 'object'].includes(typeof value) && !isMade(value),
    wanted: 'a component: render: (props) => <BerthCard {...props} />',
  },
  only: { fits: (value) => typeof value === 'boolean', wanted: 'true or false' },
  answers: record("an object: { 'GET /api/tides': { json: [] } }"),
  states: record('an object: { plain: {} }'),
  script: { fits: (value) => typeof value === 'function', wanted: 'a function: async script() { … }' },
  after: { fits: (value) => typeof value === 'string', wanted: 'the name of another look of the file' },
};

/** @throws ProblemError `look-setting` for an entry that is something else than what is made of it */
function checkKinds(value: object, where: string): void {
  for (const [name, { fits, wanted }] of Object.entries(kinds)) {
    const own = (value as Record<string, unknown>)[name];
    if (own !== undefined && !fits(own)) fail('look-setting', { where, name, value: show(own), wanted });
  }
}

/** @throws ProblemError `look-shape` for what is no object */
function checkRecord(value: unknown, where: string, example: string): void {
  const { fits, wanted } = record(`an object: ${example}`);
  if (!fits(value)) fail('look-shape', { where, value: show(value), wanted });
}

/** Declares the looks of a component. Props, and the names in `after`, are checked against it by the compiler. */
export function looks<C extends AnyComponent, const Name extends string, const Route extends string>(
  component: C,
  definition: LooksOf<PropsOf<C>, Name, Route>,
): Looks {
  checkComponent(component);
  checkRecord(definition, 'What looks(…) was given beside the component', '{ states: { plain: {} } }');
  checkKinds(definition, 'looks(…)');
  checkEntries(definition, entries, 'What looks(…) was given');
  checkAnswers(definition.answers, 'looks(…)');
  for (const [name, state] of Object.entries<LookState<object, string>>(definition.states ?? {})) {
    checkRecord(state, `The look “${name}”`, '{ props: { … }, async script() { … } }');
    checkKinds(state, `The look “${name}”`);
    checkEntries(state, stateEntries, `The look “${name}”`);
    settingsIn(state, `The look “${name}”`);
    checkAnswers(state.answers, `The look “${name}”`);
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
