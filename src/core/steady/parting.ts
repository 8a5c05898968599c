/** Where two runs of one look part, and what is the likely reason. */
import { canonicalise } from '../moment/canonical.ts';
import { contrasted } from '../text/contrast.ts';
import { diffLines, markupLines } from '../moment/markup.ts';
import type { Moment } from '../moment/moment.ts';
import { applyPatch } from '../moment/patch.ts';
import type { FinishedLook } from '../run/finished.ts';
import type { Step, Timeline } from '../timeline/timeline.ts';

/** What is kept of a look to compare later runs with. */
export type Reference = {
  verdict: string;
  problem: string | null;
  steps: { step: Step; shows: string }[];
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

/** What is compared of a look. `hash` is of a text, and may be any. */
export function referenceOf(look: FinishedLook, hash: (text: string) => string): Reference {
  const { verdict, problem, timeline, captures } = look;
  const moments = momentsOf(timeline, hash);
  return {
    verdict,
    problem: problem?.message ?? null,
    steps: timeline.steps.map((step) => ({ step, shows: moments[step.after ?? step.before] ?? '' })),
    captures: Object.fromEntries(captures.map(({ summary, markup }) => [summary.name, { hash: summary.hash, markup }])),
    requests: timeline.marks
      .filter(({ lane, title }) => lane === 'network' && !title.startsWith('GET /assets/'))
      .map(({ title }) => title),
  };
}

type StepsAt = { before: Reference['steps'][number] | undefined; now: Reference['steps'][number] | undefined };

/** How a step differs from what it was, or null. */
function stepDiffers({ before, now }: StepsAt): string | null {
  if (!before || !now) return before ? 'the script did not come as far as this' : 'the script came further';
  const [a, b] = [before.step, now.step];
  if (a.title !== b.title) return `it was “${b.title}” instead of “${a.title}”`;
  if (a.outcome !== b.outcome) return `it ${b.outcome} instead of ${a.outcome}`;
  const [from, to] = [a.clock?.[1], b.clock?.[1]];
  if (from !== to) return `the look's clock stood at ${to} ms behind it instead of ${from} ms`;
  if (before.shows !== now.shows) return 'the page showed something else behind it';
  return null;
}

function firstStep(before: Reference, now: Reference): { index: number; what: string } | null {
  for (let index = 0; index < Math.max(before.steps.length, now.steps.length); index++) {
    const what = stepDiffers({ before: before.steps[index], now: now.steps[index] });
    if (what) return { index, what };
  }
  return null;
}

/** How a capture differs, or null: lines of markup say more than pixels. */
function captureDiffers(before: Reference, now: Reference): { what: string; lines: string[] } | null {
  for (const [name, capture] of Object.entries(now.captures)) {
    const was = before.captures[name];
    if (!was || (was.hash === capture.hash && was.markup.join('\n') === capture.markup.join('\n'))) continue;
    const changes = diffLines(was.markup, capture.markup);
    const texts = (wanted: string): string[] =>
      changes.filter(({ side }) => side === wanted).map(({ text }) => text.trim());
    const lines = changes.map(({ side, text }) =>
      side === 'now' ? `+ ${contrasted(text.trim(), texts('baseline'))}` : `− ${contrasted(text.trim(), texts('now'))}`,
    );
    return {
      what:
        lines.length > 0
          ? `the capture “${name}” has other markup: ${lines.slice(0, 4).join('  ')}`
          : `the picture “${name}” differs`,
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

/** The reason that fits best, with what to write against it; `lines` are those of a capture that differs. */
function reason(before: Reference, now: Reference, index: number | null, lines: readonly string[] | undefined): string {
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
  const last = index === null ? now.steps.at(-1) : now.steps[index - 1];
  const step = last?.step;
  if (step?.kind === 'action') {
    const place = step.source ? ` in line ${step.source.line} of ${step.source.file}` : '';
    return (
      `The script goes on right after an action (${step.title}${place}) whose outcome it does not wait for. ` +
      "Add a check behind it, such as: await ensure(the.text('…')).isVisible();"
    );
  }
  if (index === null && lines?.length === 0)
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
    why: reason(before, now, step?.index ?? null, capture?.lines),
  };
}
