/** Whether a sitting has come to where the run that it follows was, and where it differs if not. */
import { type CanonicalNode, canonicalise, elementsOf, isPlainLink } from '../moment/canonical.ts';
import { diffLines, markupLines } from '../moment/markup.ts';
import type { Moment } from '../moment/moment.ts';
import { momentAt } from '../moment/patch.ts';
import type { Step, Timeline } from '../timeline/timeline.ts';
import type { Trace } from '../timeline/trace.ts';
import type { Parted, Stop } from './sitting.ts';

/** So many lines of a difference are told. */
const most = 8;

/** What linked sheets hold, by their addresses. */
export type SheetTexts = Readonly<Record<string, string>>;

/** Of linked sheets counts what they say together. */
function linesOf(moment: Moment, assets: SheetTexts, hash: (text: string) => string) {
  const shown = canonicalise(moment, { hash, assets });
  const rest = JSON.stringify(shown, (_, value: unknown) =>
    Array.isArray(value) ? value.filter((one: CanonicalNode) => !isPlainLink(one)) : value,
  );
  const linked = [...elementsOf(shown.root)].filter(isPlainLink).map(({ sheet }) => sheet);
  const rules = linked.join('').replace(/\/\*.*?\*\/|\s+/gs, '');
  return { markup: markupLines(shown), whole: rest + rules };
}

/** The steps of the script alone. */
export const ownSteps = (steps: readonly Step[]): Step[] => steps.filter(({ tried }) => !tried);

/**
 * How the moment at which a sitting has stopped differs from the one that was recorded before the same step; null when
 * it does not. `wanted` is the number of the step before which it was to stop, `sheets` what linked sheets hold on both
 * sides; `hash` is of a text, and may be any.
 */
export function partedFrom(
  recorded: Timeline,
  { steps, base, patches }: Trace,
  stop: Stop,
  wanted: number,
  sheets: { before: SheetTexts; now: SheetTexts },
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
  const before = linesOf(momentAt(recorded.base, recorded.patches, then), sheets.before, hash);
  const after = linesOf(momentAt(base, patches, stop.moment), sheets.now, hash);
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
