/** What a look file exports: a component and its named states. */
import type { Answer, AnswerInit } from './answer.ts';
import { combined } from './combine.ts';
import type { AnyComponent, PropsOf } from './component.ts';
import { checkDefinition } from './definition.ts';
import { type LookSettings, settingsIn } from './settings.ts';

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

/** What `looks` is given beside the component: what all of its states share, and the states. */
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

/** Declares the looks of a component. Props, and the names in `after`, are checked against it by the compiler. */
export function looks<C extends AnyComponent, const Name extends string, const Route extends string>(
  component: C,
  definition: LooksOf<PropsOf<C>, Name, Route>,
): Looks {
  checkDefinition(component, definition);
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
