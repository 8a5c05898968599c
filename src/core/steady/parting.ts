/** Where two runs of one look part, and what is the likely reason. */
import { canonicalise } from '../moment/canonical.ts';
import { contrasted } from '../text/contrast.ts';
import { diffLines, markupLines } from '../moment/markup.ts';
import type { Moment } from '../moment/moment.ts';
import { applyPatch, momentAt } from '../moment/patch.ts';
import type { FinishedLook } from '../run/finished.ts';
import type { Step, Timeline } from '../timeline/timeline.ts';

/** What is kept of a look to compare later runs with. */
export type Reference = {
  verdict: string;
  problem: string | null;
  steps: { step: Step; shows: string }[];
  /** What every moment of it is made of. */
  timeline: Timeline;
  captures: Record<string, { hash: string; markup: string[] }>;
  /** What the page asked for, in that order; the scripts and styles that are its own are loaded side by side. */
  requests: string[];
};

/** How two runs of one look part. */
export type Parting = {
  /** Index of the first step that differs, or null when none does. */
  step: number | null;
  /** What differed, in words. */
  what: string;
  /** The likely reason, and what to write. */
  why: string;
};

/** How a request ended is written behind an arrow. */
const asked = (title: string): string => title.split(' → ')[0]!;

/** What each moment of a timeline shows, as a hash: its markup, whatever ids its document has given. */
export function momentsOf({ base, patches, assets }: Timeline, hash: (text: string) => string): string[] {
  const shown = (moment: Moment): string => hash(markupLines(canonicalise(moment, { hash, assets })).join('\n'));
  let moment = base;
  return [
    shown(base),
    ...patches.map((patch) => {
      moment = applyPatch(moment, patch);
      return shown(moment);
    }),
  ];
}

/** The moment behind a step. */
const behind = (step: Step): number => step.after ?? step.before;

/** What is compared of a look. `hash` is of a text, and may be any. */
export function referenceOf(look: FinishedLook, hash: (text: string) => string): Reference {
  const { verdict, problem, timeline, captures } = look;
  const moments = momentsOf(timeline, hash);
  return {
    verdict,
    problem: problem?.message ?? null,
    steps: timeline.steps.map((step) => ({ step, shows: moments[behind(step)] ?? '' })),
    timeline,
    captures: Object.fromEntries(captures.map(({ summary, markup }) => [summary.name, { hash: summary.hash, markup }])),
    requests: timeline.marks
      .filter(({ lane, title }) => lane === 'network' && !title.startsWith('GET /assets/'))
      .map(({ title }) => title),
  };
}

/** The lines that only one of two markups has, with what differs in them in sight. */
function linesApart(was: readonly string[], now: readonly string[]): string[] {
  const changes = diffLines(was, now);
  const texts = (wanted: string): string[] =>
    changes.filter(({ side }) => side === wanted).map(({ text }) => text.trim());
  return changes.map(({ side, text }) =>
    side === 'now' ? `+ ${contrasted(text.trim(), texts('baseline'))}` : `− ${contrasted(text.trim(), texts('now'))}`,
  );
}

/** So many lines of a difference are told. */
const mostLines = 4;

const told = (lines: readonly string[]): string => lines.slice(0, mostLines).join('  ');

/** The markup behind a step, whatever ids its document has given. */
function markupBehind({ timeline: { base, patches, assets } }: Reference, step: Step): string[] {
  return markupLines(canonicalise(momentAt(base, patches, behind(step)), { hash: (text) => text, assets }));
}

/** A step that is not as it was, how, and whether only the page behind it is another. */
type StepApart = { index: number; what: string; isShownOnly: boolean };

/** How the step of this index is not as it was, or null. */
function stepApart(first: Reference, later: Reference, index: number): StepApart | null {
  const [before, now] = [first.steps[index], later.steps[index]];
  const apart = (what: string): StepApart => ({ index, what, isShownOnly: false });
  if (!before || !now) return apart(before ? 'the script did not come as far as this' : 'the script came further');
  const [a, b] = [before.step, now.step];
  if (a.title !== b.title) return apart(`it was “${b.title}” instead of “${a.title}”`);
  if (a.outcome !== b.outcome) return apart(`it ${b.outcome} instead of ${a.outcome}`);
  const [from, to] = [a.clock?.[1], b.clock?.[1]];
  if (from !== to) return apart(`the look's clock stood at ${to} ms behind it instead of ${from} ms`);
  if (before.shows === now.shows) return null;
  const lines = linesApart(markupBehind(first, a), markupBehind(later, b));
  return { index, what: `the page showed something else behind it: ${told(lines)}`, isShownOnly: true };
}

function firstStep(before: Reference, now: Reference): StepApart | null {
  for (let index = 0; index < Math.max(before.steps.length, now.steps.length); index++) {
    const apart = stepApart(before, now, index);
    if (apart) return apart;
  }
  return null;
}

/** How a capture differs, or null: lines of markup say more than pixels. */
function captureDiffers(before: Reference, now: Reference): { what: string; lines: string[] } | null {
  for (const [name, capture] of Object.entries(now.captures)) {
    const was = before.captures[name];
    if (!was || (was.hash === capture.hash && was.markup.join('\n') === capture.markup.join('\n'))) continue;
    const lines = linesApart(was.markup, capture.markup);
    return {
      what:
        lines.length > 0 ? `the capture “${name}” has other markup: ${told(lines)}` : `the picture “${name}” differs`,
      lines,
    };
  }
  return null;
}

/** Names that browsers and libraries make up by chance. */
const madeUp = /blob:|[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-/i;

/** So many requests are named at most. */
const mostListed = 4;

/** Requests in words, from the first one on that is another than in `other`. */
function listed(requests: readonly string[], other: readonly string[]): string {
  const from = Math.max(
    0,
    requests.findIndex((one, i) => one !== other[i]),
  );
  const rest = requests.length - from - mostListed;
  return requests.slice(from, from + mostListed).join(', ') + (rest > 0 ? ` and ${rest} more` : '') || 'none';
}

const placeOf = ({ source }: Step): string => (source ? ` in line ${source.line} of ${source.file}` : '');

/** The reason that fits best, with what to write against it; `lines` are those of a capture that differs. */
function reason(
  before: Reference,
  now: Reference,
  step: StepApart | null,
  lines: readonly string[] | undefined,
): string {
  const real = now.requests.find((title) => title.endsWith('sent to the network'));
  if (real)
    return (
      `It asks the real network (${asked(real)}), which is never the same twice. ` +
      `Add answers: { '${asked(real)}': { json: … } } to the look.`
    );
  const order = now.requests.map(asked);
  const wasOrder = before.requests.map(asked);
  if (order.join('\n') !== wasOrder.join('\n'))
    return (
      `Its requests came in another order (${listed(order, wasOrder)} instead of ${listed(wasOrder, order)}). ` +
      'Let the answer that comes first say so: hold the other one with hold: true and letGo().'
    );
  if (lines?.some((line) => madeUp.test(line)))
    return (
      'It shows a name that the browser makes up by chance. ' +
      'Give the component such names as a prop, and set them in the look.'
    );
  const at = step && now.steps[step.index]?.step;
  if (at?.kind === 'check' && step?.isShownOnly)
    return (
      `The check${placeOf(at)} holds while the page is still changing. ` +
      "Add one behind it for what comes last, such as: await ensure(the.text('…')).isVisible();"
    );
  const last = (step ? now.steps[step.index - 1] : now.steps.at(-1))?.step;
  if (last?.kind === 'action')
    return (
      `The script goes on right after an action (${last.title}${placeOf(last)}) whose outcome it does not wait for. ` +
      "Add a check behind it, such as: await ensure(the.text('…')).isVisible();"
    );
  if (step === null && lines?.length === 0)
    return (
      'The page was the same, and only its picture differs. Something is drawn in real time, such as a video or a ' +
      'canvas of another thread. Wait in the script until it rests, or leave it out with ' +
      "compare: { leaveOut: [{ target: the.css('…'), why: '…' }] }."
    );
  return (
    'Nothing that was recorded says why. Something may happen in real time, as in the worker of a worker. ' +
    'Wait in the script for what it brings, with a check.'
  );
}

/** Where and how a later run of a look parts from the first one, or null when nothing differs. */
export function partingOf(before: Reference, now: Reference): Parting | null {
  const step = firstStep(before, now);
  const capture = captureDiffers(before, now);
  if (!step && !capture && before.verdict === now.verdict && before.problem === now.problem) return null;
  const what = [step?.what, capture?.what].filter((one) => one !== undefined).join('; ');
  return {
    step: step?.index ?? null,
    what: what || `it was ${now.verdict} (${now.problem}) instead of ${before.verdict} (${before.problem})`,
    why: reason(before, now, step, capture?.lines),
  };
}
