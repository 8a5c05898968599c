/** What a script asks for, in words: the titles of steps. */
import { show } from '../core/value/show.ts';
import { counted } from '../core/text/counted.ts';
import type { ClockMove } from './clock.ts';
import type { Answer, AnswerInit, Reply } from './answer.ts';
import type { Action, Amount, CallClaim, Carried, Check, ClickOptions, TargetClaim } from './command.ts';
import type { TouchOptions, ValueClaim } from './command.ts';
import { isSpy, type Spy, spyName } from './spy.ts';
import { isTarget, type Name } from './target.ts';
import type { WorldChange } from './world.ts';

const quoted = (text: Name): string => (typeof text === 'string' ? `“${text}”` : String(text));
const times = (n: number): string => counted(n, 'time');

const pixels = ([x, y]: Amount): string => `${x}, ${y} px`;

/** `right-click`, `double-click`, `Shift-click`, `click … at 4, 10 px`. */
function clickInWords({ button, holding, times: count = 1 }: ClickOptions): string {
  const kind = count === 2 ? 'double-click' : count === 3 ? 'triple-click' : 'click';
  const how = [...(holding ? [holding] : []), ...(button && button !== 'left' ? [button] : []), kind];
  return how.join('-');
}

const fileInWords = (file: File | string): string => (typeof file === 'string' ? file : file?.name);

/** `“Alba”`; `crane.png and chart.csv`. */
export function carriedInWords({ text, html, files = [] }: Carried): string {
  if (files.length > 0) return files.length > 3 ? counted(files.length, 'file') : files.map(fileInWords).join(' and ');
  return text !== undefined ? `“${text}”` : html !== undefined ? `“${html}”` : 'nothing';
}

function touchInWords({ by, held, times: count = 1 }: TouchOptions): string {
  if (by) return `swipe by ${pixels(by)} on`;
  return held
    ? `hold a finger for ${held} ms on`
    : count === 2
      ? 'double-tap'
      : count > 2
        ? `tap ${count} times`
        : 'tap';
}

function pressInWords({ target, keys, options }: Extract<Action, { do: 'press' }>): string {
  const { times: count, held } = options;
  const long = held ? ` for ${held} ms` : count !== undefined && count !== 1 ? ` ${times(count)}` : '';
  return `press ${keys}${long}${target ? ` on ${target}` : ''}`;
}

/** `click the button “Release berth”`. */
export function actionInWords(action: Action): string {
  // What it was given is told by the problem that comes of it.
  if ('target' in action && action.target && !isTarget(action.target)) return `${action.do} what is no target`;
  switch (action.do) {
    case 'click': {
      const { at } = action.options;
      return `${clickInWords(action.options)} ${action.target}${at ? ` at ${pixels(at)}` : ''}`;
    }
    case 'type':
      return `type “${action.text}” into ${action.target}`;
    case 'press':
      return pressInWords(action);
    case 'select':
      return `select ${action.options.map((one) => `“${one}”`).join(', ') || 'nothing'} in ${action.target}`;
    case 'unhover':
      return 'move the pointer away';
    case 'blur':
      return action.target ? `take the focus from ${action.target}` : 'take the focus away';
    case 'drag': {
      const what = isTarget(action.what) ? String(action.what) : carriedInWords(action.what ?? {});
      const where = isTarget(action.to) ? `to ${action.to}` : `by ${pixels(action.to?.by ?? [0, 0])}`;
      const held = action.options?.held;
      return `drag ${what} ${where}${held ? `, and let go after ${held} ms` : ''}`;
    }
    case 'scroll': {
      const { by, to } = action.way ?? {};
      return `scroll ${action.target} ${by ? `by ${pixels(by)}` : to ? `to the ${to}` : 'into view'}`;
    }
    case 'upload':
      return `upload ${carriedInWords({ files: action.files })} with ${action.target}`;
    case 'paste':
      return `paste ${carriedInWords(action.what ?? {})}${action.target ? ` into ${action.target}` : ''}`;
    case 'touch':
      return `${touchInWords(action.options)} ${action.target}`;
    case 'pinch':
      return `pinch ${action.target} to ${action.scale} times its size`;
    case 'resize':
      return `resize the viewport to ${action.size?.join(' × ')}`;
    default:
      return `${action.do} ${action.target}`;
  }
}

const said = (value: Name | number): string => (typeof value === 'number' ? String(value) : quoted(value));

/** What is said of a target: `is visible`, and negated. */
function targetClaim(claim: TargetClaim): [string, string] {
  const has = (what: string): [string, string] => [`has ${what}`, `does not have ${what}`];
  const is = (what: string): [string, string] => [`is ${what}`, `is not ${what}`];
  switch (claim.is) {
    case 'reads':
      return [`reads ${quoted(claim.text)}`, `does not read ${quoted(claim.text)}`];
    case 'value':
      return has(`the value ${said(claim.value)}`);
    case 'attribute':
      return has(`the attribute ${claim.name}${claim.value === undefined ? '' : ` ${quoted(claim.value)}`}`);
    case 'style':
      return has(`the ${claim.property} ${said(claim.value)}`);
    case 'named':
    case 'described':
      return is(`${claim.is} ${claim.is === 'described' ? 'as ' : ''}${quoted(claim.text)}`);
    case 'role':
      return has(`the role ${claim.role}`);
    case 'counted':
      return is(`there ${times(claim.n)}`);
    case 'within':
      return is(`within ${claim.what === 'viewport' ? 'the viewport' : claim.what}`);
    case 'before':
      return [`comes before ${claim.what}`, `does not come before ${claim.what}`];
    case 'unchecked':
      return ['is not checked', 'is checked'];
    case 'focused':
      return has('the focus');
    default:
      return is(claim.is);
  }
}

/** The first words of a list: the whole of it is told when it does not hold. */
const inTurn = (calls: readonly unknown[]): string => calls.map((call) => show(call)).join(', ');

function callClaim(claim: CallClaim, verb: string): [string, string] {
  const was = (what: string): [string, string] => [`was ${verb}${what}`, `was not ${verb}${what}`];
  switch (claim.is) {
    case 'called times':
      return was(` ${times(claim.n)}`);
    case 'called with':
      return was(` with (${claim.args.map((one) => show(one)).join(', ')})`);
    case 'asked with':
      return was(` with ${show(claim.what)}`);
    case 'called in turn':
      return was(` ${times(claim.calls.length)}, with ${inTurn(claim.calls)}`);
    default:
      return was('');
  }
}

const valueClaim = ({ is, to }: ValueClaim): [string, string] =>
  is === 'equal'
    ? [`equals ${show(to)}`, `does not equal ${show(to)}`]
    : [`matches ${show(to)}`, `does not match ${show(to)}`];

const nameOf = (subject: Spy | Answer): string => (isSpy(subject) ? spyName(subject) : subject.route);

/** What is claimed of what: subject, claim, and claim negated. */
function partsOf(check: Check): [string, [string, string]] {
  switch (check.of) {
    case 'target':
      return [String(check.target), targetClaim(check.claim)];
    case 'calls':
      return [nameOf(check.subject), callClaim(check.claim, isSpy(check.subject) ? 'called' : 'asked')];
    case 'value':
      return [
        'value' in check.source ? 'the value' : `call ${check.source.call} of ${nameOf(check.source.of)}`,
        valueClaim(check.claim),
      ];
    case 'no spy':
      return ['a spy', ['was called', 'was not called']];
  }
}

/** What a check says: `the dialog is visible`. */
export function checkInWords(check: Check): string {
  const [subject, [claim, negated]] = partsOf(check);
  return `${subject} ${check.isNot ? negated : claim}`;
}

/** What a check claims, without what it is about: `is visible`. */
export const claimInWords = (check: Check): string => partsOf(check)[1][0];

/** `change the world: online false`. */
export const worldInWords = (change: WorldChange): string =>
  `change the world: ${Object.entries(change)
    .map(([name, value]) => `${name} ${show(value)}`)
    .join(', ')}`;

/** `move the clock on by 300 ms`. */
export function clockInWords(move: ClockMove): string {
  if ('finish' in move) return 'move the clock on to the end of what waits';
  if ('freeze' in move) return move.freeze ? 'freeze the clock' : 'let the clock move on';
  return 'by' in move ? `move the clock on by ${move.by} ms` : `set the clock to ${show(new Date(move.to))}`;
}

function replyInWords({ unreachable, status = 200, hold, delay, chunks, events, messages }: Reply): string {
  const what = unreachable
    ? 'nothing: unreachable'
    : chunks
      ? 'a stream'
      : events
        ? counted(events.length, 'event')
        : messages
          ? counted(messages.length, 'message')
          : status;
  return `${what}${hold ? ', held' : ''}${delay ? `, after ${delay} ms` : ''}`;
}

/** `answer POST /api/arrivals with 503`. */
export function answerInWords(route: string, init: AnswerInit): string {
  if (typeof init === 'function') return `answer ${route} with what a function gives`;
  const replies = Array.isArray(init) ? (init as readonly Reply[]) : [init as Reply];
  return `answer ${route} with ${replies.map((one) => replyInWords(one ?? {})).join(', then ')}`;
}
