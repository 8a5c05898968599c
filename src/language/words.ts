/** What a script asks for, in words: the titles of steps. */
import { show } from '../core/value/show.ts';
import { counted } from '../core/text/counted.ts';
import type { ClockMove } from './clock.ts';
import type { AnswerInit } from './answer.ts';
import type { Action, CallClaim, Check, TargetClaim, ValueClaim } from './command.ts';
import { isSpy, spyName } from './spy.ts';
import type { Name } from './target.ts';

const quoted = (text: Name): string => (typeof text === 'string' ? `“${text}”` : String(text));
const times = (n: number): string => counted(n, 'time');

/** `click the button “Release berth”`. */
export function actionInWords(action: Action): string {
  switch (action.do) {
    case 'type':
      return `type “${action.text}” into ${action.target}`;
    case 'press':
      return `press ${action.keys}${action.target ? ` on ${action.target}` : ''}`;
    case 'select':
      return `select “${action.option}” in ${action.target}`;
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
