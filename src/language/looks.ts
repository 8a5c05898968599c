/** What a look file exports: a component and its named states. */
import type { ComponentProps, ComponentType, JSXElementConstructor } from 'react';
import { fail } from '../core/problem/problem.ts';
import { nearest } from '../core/text/nearest.ts';
import type { Answer, AnswerInit } from './answer.ts';

/** A component, whatever its props are. */
// biome-ignore lint/suspicious/noExplicitAny: React's own constraint for components of any props
export type AnyComponent = ComponentType<any> | JSXElementConstructor<any>;

/** What a script is given. */
export type ScriptContext<P> = {
  /** The props that the component was given: spies among them can be checked. */
  props: P;
  /** The look's declared answers by route: held ones can be let go, and all can be checked. */
  answers: Record<string, Answer>;
};

/** One state of a component. */
export type LookState<P, Name extends string> = {
  /** Laid over the props of the file. */
  props?: Partial<P>;
  /** Replies to the component's requests, laid over those of the file: `{ 'POST /api/arrivals': { status: 503 } }`. */
  answers?: Record<string, AnswerInit>;
  /** Starts where this look ended. */
  after?: Name;
  /** Actions and checks, in the order in which a person would do them. */
  script?(context: ScriptContext<P>): Promise<void>;
};

type RequiredKeys<P> = { [K in keyof P]-?: object extends Pick<P, K> ? never : K }[keyof P];

type LooksOf<P, Name extends string> = {
  answers?: Record<string, AnswerInit>;
  states: { [K in Name]: LookState<P, NoInfer<Name>> };
  // A component without required props needs none here.
} & ([RequiredKeys<P>] extends [never] ? { props?: P } : { props: P });

/** A look file's default export. */
export type Looks = {
  readonly isLooks: true;
  component: AnyComponent;
  props: Record<string, unknown>;
  answers: Record<string, AnswerInit>;
  states: Record<string, LookState<Record<string, unknown>, string>>;
};

const entries = ['props', 'answers', 'states'];
const stateEntries = ['props', 'answers', 'after', 'script'];
const answerEntries = ['status', 'json', 'body', 'headers', 'delay', 'hold', 'unreachable'];

/** The compiler says so, too, but not to everybody. @throws ProblemError `look-entry` */
function checkEntries(value: unknown, known: readonly string[], where: string): void {
  if (typeof value !== 'object' || value === null) return;
  const entry = Object.keys(value).find((key) => !known.includes(key));
  if (entry === undefined) return;
  fail('look-entry', { where, entry, near: nearest(entry, known) ?? '', known: known.join(', ') });
}

function checkAnswers(answers: object | undefined, where: string): void {
  for (const [route, init] of Object.entries(answers ?? {}))
    checkEntries(init, answerEntries, `${where}, the answer to ${route},`);
}

/** Declares the looks of a component. Props, and the names in `after`, are checked against it by the compiler. */
export function looks<C extends AnyComponent, const Name extends string>(
  component: C,
  definition: LooksOf<ComponentProps<C>, Name>,
): Looks {
  checkEntries(definition, entries, 'What looks(…) was given');
  checkAnswers(definition.answers, 'looks(…)');
  for (const [name, state] of Object.entries<LookState<object, string>>(definition.states ?? {})) {
    checkEntries(state, stateEntries, `The look “${name}”`);
    checkAnswers(state?.answers, `The look “${name}”`);
  }
  return {
    isLooks: true,
    component,
    props: (definition.props ?? {}) as Record<string, unknown>,
    answers: definition.answers ?? {},
    states: definition.states as unknown as Looks['states'],
  };
}

export const isLooks = (value: unknown): value is Looks =>
  typeof value === 'object' &&
  value !== null &&
  (value as Partial<Looks>).isLooks === true &&
  typeof (value as Looks).states === 'object';
