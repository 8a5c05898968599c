/** The shapes of everything that a page says. */
import type { Audit } from '../accessibility/finding.ts';
import { isRule, type RuleId } from '../accessibility/rules.ts';
import { catalogue, type ProblemCode } from '../problem/catalogue.ts';
import type { Problem } from '../problem/problem.ts';
import type { Completion, TriedLine } from '../sitting/sitting.ts';
import {
  either,
  fields,
  list,
  nullable,
  number,
  oneOf,
  optional,
  record,
  type Shape,
  text,
  truth,
  tuple,
  whole,
} from '../shape/shape.ts';
import { isBudget } from '../timing/budget.ts';
import type { Primitive } from '../props/given.ts';
import type { Step, TimelineEvent } from '../timeline/timeline.ts';
import type { Pointed } from './live.ts';
import type { FileReport, FromPage, LookReport } from './wire.ts';

const box = tuple(number, number, number, number);
const id = whole(0, 1_000_000_000);
const ids = list(id);
const name = text(2000);

const problemCode: Shape<ProblemCode> = (value): value is ProblemCode =>
  typeof value === 'string' && Object.hasOwn(catalogue, value);

const problem = fields({
  code: problemCode,
  message: text(100_000),
  remedy: text(10_000),
  found: optional(list(text(10_000), 1000)),
  frame: optional(text(100_000)),
  place: optional(text(10_000)),
  look: optional(text(10_000)),
}) as Shape<Problem>;

const state = fields({
  value: optional(text()),
  checked: optional(truth),
  indeterminate: optional(truth),
  selected: optional(ids),
  scroll: optional(tuple(number, number)),
  dialog: optional(oneOf('modal', 'open')),
  popover: optional(oneOf(true)),
  pixels: optional(text(50_000_000)),
  user: optional(oneOf('invalid', 'valid')),
  custom: optional(list(text(1000), 1000)),
  seconds: optional(number),
  animated: optional(record(record(text(100_000)))),
});

const element = fields({
  tag: name,
  ns: optional(oneOf('svg', 'math')),
  attrs: optional(record(text(50_000_000))),
  kids: optional(ids),
  shadow: optional(fields({ kids: ids, sheets: optional(ids) })),
  sheet: optional(id),
  frame: optional(fields({ kid: nullable(id), width: number, height: number })),
  state: optional(state),
});

const node = either(fields({ text: text(50_000_000) }), element);
const sheet = either(fields({ css: text(50_000_000), base: text() }), fields({ url: text() }));

const changedMedia = {
  scheme: optional(oneOf('light', 'dark')),
  motion: optional(oneOf('reduce', 'no-preference')),
  contrast: optional(oneOf('more', 'no-preference')),
  forcedColours: optional(truth),
  print: optional(truth),
};

const viewFields = {
  width: number,
  height: number,
  scroll: tuple(number, number),
  hover: ids,
  focus: nullable(id),
  focusVisible: truth,
  sheets: ids,
};
const media = { media: optional(fields(changedMedia)) };
const view = fields({ ...viewFields, ...media });
const partOfView = fields({
  ...Object.fromEntries(Object.entries(viewFields).map(([key, shape]) => [key, optional(shape as Shape<unknown>)])),
  ...media,
});

const moment = fields({ root: id, nodes: record(node), sheets: record(sheet), view });
const patch = fields({
  nodes: optional(record(nullable(node))),
  sheets: optional(record(nullable(sheet))),
  view: optional(partOfView),
});

const step = fields({
  index: id,
  kind: oneOf('mount', 'action', 'check', 'answer', 'capture', 'part', 'navigation', 'error'),
  title: text(100_000),
  parent: nullable(id),
  at: number,
  took: nullable(number),
  clock: optional(tuple(number, number)),
  outcome: oneOf('passed', 'failed', 'broken', 'running'),
  before: id,
  after: nullable(id),
  target: optional(fields({ node: nullable(id), box: nullable(box), description: text(100_000) })),
  cover: optional(nullable(id)),
  pointer: optional(tuple(number, number)),
  tries: optional(id),
  saw: optional(list(text(100_000), 1000)),
  doubt: optional(text(1000)),
  tried: optional(oneOf(true)),
  capture: optional(name),
  problem: optional(problem),
}) as unknown as Shape<Step>;

const mark = fields({
  lane: oneOf('console', 'network', 'spies', 'dom'),
  at: number,
  took: nullable(number),
  title: text(100_000),
  level: oneOf('info', 'warning', 'error'),
  detail: optional(text()),
});

const event = either(
  fields({ kind: oneOf('base'), at: number, moment }),
  fields({ kind: oneOf('patch'), at: number, patch }),
  fields({ kind: oneOf('step'), step, stack: optional(text()) }),
  fields({ kind: oneOf('mark'), id, mark }),
  fields({ kind: oneOf('asset'), url: text(), data: optional(text(100_000_000)) }),
) as Shape<TimelineEvent>;

const anything = (value: unknown): value is unknown => value !== undefined;
const button = oneOf('left', 'middle', 'right', 'none');
const modifiers = whole(0, 15);
const point = tuple(number, number);
const key = text(40);
const input = either(
  fields({ kind: oneOf('move'), x: number, y: number, button, modifiers }),
  fields({ kind: oneOf('down', 'up'), x: number, y: number, button, clicks: whole(0, 3), modifiers }),
  fields({ kind: oneOf('wheel'), x: number, y: number, by: point, modifiers }),
  fields({
    kind: oneOf('touch'),
    phase: oneOf('start', 'move', 'end'),
    points: list(point, 10),
    after: number,
    modifiers,
  }),
  fields({ kind: oneOf('key', 'keydown', 'keyup'), key, modifiers, repeat: optional(truth) }),
);
const events = list(input, 1_000_000);

/** True for input that can be sent. */
export const isInput = (value: unknown): boolean => input(value);

const file = either(fields({ path: text(1000) }), fields({ name: text(255), base64: text(100_000_000) }));
const files = list(file, 1000);
const load = fields({ text: nullable(text(10_000_000)), html: nullable(text(10_000_000)), files });
const pixels = whole(1, 10_000);
const surroundings = fields({
  ...changedMedia,
  viewport: optional(tuple(pixels, pixels)),
  online: optional(truth),
  place: optional(nullable(tuple(number, number, number))),
  permissions: optional(record(oneOf('granted', 'denied'))),
  answered: optional(list(text(10_000), 1000)),
});
const allowance = fields({
  kind: oneOf('left-out', 'anti-aliasing', 'difference'),
  why: text(10_000),
  boxes: nullable(list(box, 10_000)),
  upTo: nullable(number),
  nodes: ids,
});
const ask = either(
  fields({ do: oneOf('input'), events }),
  fields({ do: oneOf('carry'), point, load: nullable(load), modifiers, drops: truth }),
  fields({ do: oneOf('choose'), events, files }),
  fields({ do: oneOf('paste'), load }),
  fields({ do: oneOf('conform'), schema: anything, value: optional(anything) }),
  fields({ do: oneOf('surround'), with: surroundings }),
  fields({ do: oneOf('glance'), clip: box, isAgain: truth }),
  fields({ do: oneOf('focuses'), clips: list(box, 1000) }),
  fields({ do: oneOf('recall'), beside: text(1_000_000) }),
  fields({ do: oneOf('conclude'), report: anything }),
  fields({ do: oneOf('nothing') }),
  fields({
    do: oneOf('capture'),
    name,
    clip: box,
    beyond: truth,
    step: id,
    moment: id,
    unseen: ids,
    allowed: list(allowance, 1000),
    opaque: truth,
  }),
);
const content = text(100_000_000);
const body = either(content, fields({ base64: content }), fields({ file: text(1000) }));
const reply = fields({ status: whole(200, 599), headers: record(text()), body });

const stop = fields({
  why: oneOf('pause', 'breakpoint', 'reached', 'next', 'failure', 'end'),
  number: id,
  step: nullable(id),
  moment: id,
  problem: nullable(problem),
});

const choice = fields({
  options: list(fields({ label: text(10_000), isDisabled: truth }), 10_000),
  chosen: whole(-1, 10_000),
});
const did = fields({ id, text: nullable(text()), offers: list(text(20_000), 100) });

const fromPage = either(
  fields({ token: name, kind: oneOf('ask'), look: id, id, ask }),
  fields({ token: name, kind: oneOf('events'), look: id, events: list(event) }),
  fields({ token: name, kind: oneOf('stopped'), look: id, stop }),
  fields({ token: name, kind: oneOf('did'), look: id, lines: list(did, 10_000) }),
  fields({ token: name, kind: oneOf('asks'), look: id, choice }),
  fields({ token: name, kind: oneOf('watches') }),
  fields({ token: name, kind: oneOf('answer'), request: name, reply: either(reply, oneOf('proceed', 'refuse')) }),
) as unknown as Shape<FromPage>;

const finding = {
  element: text(2000),
  node: nullable(number),
  box: tuple(number, number, number, number),
  step: number,
};

const findings = list(
  fields({
    ...finding,
    rule: (value: unknown): value is RuleId => typeof value === 'string' && isRule(value),
    certain: truth,
    what: text(5000),
  }),
  100_000,
);

const audit = fields({
  findings,
  atEnd: nullable(findings),
  keyboard: nullable(findings),
  stylesFocus: nullable(truth),
  lines: list(
    fields({ ...finding, colour: tuple(number, number, number, number), size: number, isBold: truth, isAside: truth }),
    10_000,
  ),
  accepted: list(
    fields({
      rule: (value: unknown): value is RuleId => typeof value === 'string' && isRule(value),
      element: nullable(text(2000)),
      why: text(5000),
    }),
    10_000,
  ),
}) as unknown as Shape<Audit>;

const lookReport = fields({
  outcome: oneOf('passed', 'failed', 'broken'),
  problem: nullable(problem),
  stack: nullable(text()),
  notes: list(text(100_000), 10_000),
  left: list(text(10_000), 10_000),
  audit: nullable(audit),
}) as Shape<LookReport>;

const primitive = (value: unknown): value is Primitive =>
  typeof value === 'boolean' || typeof value === 'number' || typeof value === 'string';

const declared = fields({
  look: name,
  hasScript: truth,
  after: nullable(name),
  isolate: nullable(truth),
  timeLimit: nullable(whole(100, 3_600_000)),
  dependsOn: list(text(1000)),
  reuse: truth,
  tags: list(text(200), 1000),
  skip: nullable(text(2000)),
  only: truth,
  environments: nullable(list(text(200), 1000)),
  compares: nullable(oneOf('both', 'picture', 'markup')),
  given: list(fields({ path: text(1000), values: list(primitive, 100) }), 1000),
  reference: nullable(text(4000)),
  budget: nullable(isBudget),
});

const fileReport = either(
  fields({ looks: list(declared, 100_000), isPlain: truth, styles: list(text(10_000), 10_000) }),
  fields({ problem, stack: nullable(text()) }),
) as Shape<FileReport>;

/** What a page has said through its raw binding; null for what has none of the shapes. */
export function readMessage(raw: string): FromPage | null {
  try {
    const value: unknown = JSON.parse(raw);
    return fromPage(value) ? value : null;
  } catch {
    return null;
  }
}

const tried = fields({ value: nullable(text()), problem: nullable(problem), steps: id }) as Shape<
  Omit<TriedLine, 'text'>
>;
const completion = fields({ from: whole(0, 100_000), words: list(text(1000), 1000) }) as Shape<Completion>;

const pointed = nullable(
  fields({
    element: name,
    targets: list(fields({ code: text(10_000), matches: id }), 100),
    role: nullable(name),
    name: text(100_000),
    description: text(100_000),
    states: list(name, 100),
    box,
    styles: list(
      fields({
        property: name,
        value: text(100_000),
        tokens: list(fields({ name, value: text(100_000) }), 100),
        rule: nullable(text(100_000)),
      }),
      1000,
    ),
    component: nullable(fields({ name, props: text(100_000), place: nullable(name) })),
  }),
) as Shape<Pointed | null>;

/** What a page says of an element that somebody has pointed at; null for none, and for what has not the shape. */
export const readPointed = (value: unknown): Pointed | null => (pointed(value) ? value : null);

/** What a page says a line came to; null for what has not the shape. */
export const readTried = (value: unknown): Omit<TriedLine, 'text'> | null => (tried(value) ? value : null);

/** What a page says may come next in a line; null for what has not the shape. */
export const readCompletion = (value: unknown): Completion | null => (completion(value) ? value : null);

/** What a page says its look came to; null for what has not the shape. */
export function readLookReport(value: unknown): LookReport | null {
  if (lookReport(value)) return value;
  // What a page finds of its accessibility is of no use when functions that it takes have been replaced.
  const others = typeof value === 'object' && value !== null ? { ...value, audit: null } : value;
  return lookReport(others) ? others : null;
}

/** What a page says of its look file; null for what has not the shape. */
export const readFileReport = (value: unknown): FileReport | null => (fileReport(value) ? value : null);
