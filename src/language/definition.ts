/** What `looks` is given, refused at once where nothing can be made of it: the compiler does not tell everybody. */
import { fail, ProblemError } from '../core/problem/problem.ts';
import { show } from '../core/value/show.ts';
import { type AnswerInit, needReply, repliesOf } from './answer.ts';
import { body, needKnown, type Rule, record, text } from './given.ts';
import { type LookSettings, settingEntries, settingsIn } from './settings.ts';

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
  if (typeof value === 'object' && value !== null) needKnown(where, value, known);
}

type Answers = { readonly [route: string]: AnswerInit | undefined };

function checkAnswers(answers: Answers | undefined, where: string): void {
  for (const [route, init = {}] of Object.entries(answers ?? {}))
    for (const reply of repliesOf(init))
      if (typeof reply === 'object' && reply !== null) needReply(`${where}, the answer to ${route},`, reply);
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

/** What entries have to be that nothing else looks at before they are used. */
const kinds: Record<string, Rule> = {
  props: record("{ station: 'Molo Est' }"),
  slots: record("{ default: 'Moored' }"),
  render: {
    fits: (value) => ['function', 'object'].includes(typeof value) && !isMade(value),
    wanted: 'a component: render: (props) => <BerthCard {...props} />',
  },
  only: { fits: (value) => typeof value === 'boolean', wanted: 'true or false' },
  answers: record("{ 'GET /api/tides': { json: [] } }"),
  states: record('{ plain: {} }'),
  script: body('async script() { … }'),
  after: text('the name of another look of the file'),
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
  const { fits, wanted } = record(example);
  if (!fits(value)) fail('look-shape', { where, value: show(value), wanted });
}

/** Whatever is wrong is about this look. */
function about(look: string, check: () => void): void {
  try {
    check();
  } catch (error) {
    throw error instanceof ProblemError ? new ProblemError({ ...error.problem, look }) : error;
  }
}

/** As much of it as is looked into here. */
type Definition = { answers?: Answers; states?: Record<string, LookSettings & { answers?: Answers }> };

/** @throws ProblemError `component-missing`, `look-shape`, `look-setting`, `look-entry` */
export function checkDefinition(component: unknown, definition: object): void {
  checkComponent(component);
  checkRecord(definition, 'What looks(…) was given beside the component', '{ states: { plain: {} } }');
  checkKinds(definition, 'looks(…)');
  checkEntries(definition, entries, 'What looks(…) was given');
  const { answers, states = {} } = definition as Definition;
  checkAnswers(answers, 'looks(…)');
  for (const [name, state] of Object.entries(states)) {
    const where = `The look “${name}”`;
    about(name, () => {
      checkRecord(state, where, '{ props: { … }, async script() { … } }');
      checkKinds(state, where);
      checkEntries(state, stateEntries, where);
      settingsIn(state, where);
      checkAnswers(state.answers, where);
    });
  }
}
