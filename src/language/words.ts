/** What a script asks for, in words: the titles of steps. */
import { show } from '../core/value/show.ts';
import { counted } from '../core/text/counted.ts';
import type { ClockMove } from './clock.ts';
import type { AnswerInit } from './answer.ts';
import type { Action, Amount, CallClaim, Carried, Check, ClickOptions, TargetClaim } from './command.ts';
import type { TouchOptions, ValueClaim } from './command.ts';
import { isSpy, spyName } from './spy.ts';
import { isTarget, type Name } from './target.ts';

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
      return `drag ${what} ${isTarget(action.to) ? `to ${action.to}` : `by ${pixels(action.to?.by ?? [0, 0])}`}`;
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

function targetClaim(claim: TargetClaim): string {
  switch (claim.is) {
    case 'reads':
      return `reads ${quoted(claim.text)}`;
    case 'value':
      return `has the value ${typeof claim.value === 'number' ? claim.value : quoted(claim.value)}`;
    case 'attribute':
      return `has the attribute ${claim.name}${claim.value === undefined ? '' : ` ${quoted(claim.value)}`}`;
    case 'counted':
      return `is there ${times(claim.n)}`;
    case 'unchecked':
      return 'is not checked';
    case 'focused':
      return 'has the focus';
    default:
      return `is ${claim.is}`;
  }
}

function callClaim(claim: CallClaim): string {
  if (claim.is === 'called times') return `was called ${times(claim.n)}`;
  return claim.is === 'called' ? 'was called' : `was called with (${claim.args.map(show).join(', ')})`;
}

const valueClaim = (claim: ValueClaim): string =>
  claim.is === 'equal' ? `equals ${show(claim.to)}` : `matches ${claim.pattern}`;

/** What a check says: `the dialog is visible`. */
export function checkInWords(check: Check): string {
  switch (check.of) {
    case 'target':
      return `${check.target} ${targetClaim(check.claim)}`;
    case 'calls':
      return `${isSpy(check.subject) ? spyName(check.subject) : check.subject.route} ${callClaim(check.claim)}`;
    case 'value':
      return `the value ${valueClaim(check.claim)}`;
    case 'no spy':
      return 'a spy was called';
  }
}

/** `move the clock on by 300 ms`. */
export const clockInWords = (move: ClockMove): string =>
  'finish' in move
    ? 'move the clock on to the end of what waits'
    : 'by' in move
      ? `move the clock on by ${move.by} ms`
      : `set the clock to ${show(new Date(move.to))}`;

/** `answer POST /api/arrivals with 503`. */
export const answerInWords = (route: string, init: AnswerInit): string =>
  `answer ${route} with ` +
  `${init.unreachable ? 'nothing: unreachable' : (init.status ?? 200)}${init.hold ? ', held' : ''}` +
  (init.delay ? `, after ${init.delay} ms` : '');
