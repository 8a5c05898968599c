/** Whether a sitting has come to where the run that it follows was, and where it differs if not. */
import { canonicalise } from '../moment/canonical.ts';
import { diffLines, markupLines } from '../moment/markup.ts';
import type { Moment } from '../moment/moment.ts';
import { momentAt } from '../moment/patch.ts';
import type { Step, Timeline } from '../timeline/timeline.ts';
import type { Trace } from '../timeline/trace.ts';
import type { Parted, Stop } from './sitting.ts';

/** So many lines of a difference are told. */
const most = 8;

/** `hash` is of a text, and may be any. */
function linesOf(moment: Moment, hash: (text: string) => string): { markup: string[]; whole: string } {
  const shown = canonicalise(moment, { hash, assets: {} });
  return { markup: markupLines(shown), whole: JSON.stringify(shown) };
}

/** The steps of the script alone. */
export const ownSteps = (steps: readonly Step[]): Step[] => steps.filter(({ tried }) => !tried);

/**
 * How the moment at which a sitting has stopped differs from the one that was recorded before the same step; null when
 * it does not. `wanted` is the number of the step before which it was to stop.
 */
export function partedFrom(
  recorded: Timeline,
  { steps, base, patches }: Trace,
  stop: Stop,
  wanted: number,
  hash: (text: string) => string,
): Parted | null {
  const was = recorded.steps[wanted];
  const now = stop.step === null ? undefined : steps[stop.step];
  if (stop.number < wanted) {
    const last = ownSteps(steps).at(-1);
    const why = stop.problem ? [stop.problem.message] : [];
    return { what: `The script did not come as far as this step. It stopped at “${last?.title ?? ''}”.`, lines: why };
  }
  if (was && now && was.title !== now.title)
    return { what: `The script does something else here: “${now.title}” instead of “${was.title}”.`, lines: [] };
  const then = was?.before ?? recorded.patches.length;
  const before = linesOf(momentAt(recorded.base, recorded.patches, then), hash);
  const after = linesOf(momentAt(base, patches, stop.moment), hash);
  const changes = diffLines(before.markup, after.markup);
  if (changes.length > 0) {
    const lines = changes.map(({ side, text }) => `${side === 'now' ? '+' : '−'} ${text.trim()}`);
    const rest = lines.length > most ? [`and ${lines.length - most} more lines`] : [];
    return { what: 'The page shows something else than was recorded.', lines: [...lines.slice(0, most), ...rest] };
  }
  if (before.whole === after.whole) return null;
  return {
    what: 'The page has the same markup as recorded, but is styled, scrolled or pointed at otherwise.',
    lines: [],
  };
}
