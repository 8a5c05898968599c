/** How a capture differs, in one line, and what of it is compared otherwise. */
import { plainDistance } from '../../core/picture/colour.ts';
import type { Allowance } from '../../core/picture/allowance.ts';
import type { Comparison } from '../../core/picture/compare.ts';
import type { CaptureSummary } from '../../core/run/run.ts';
import { counted } from '../../core/text/counted.ts';

function pictureFacts({ visible, regions, strongest, from, to }: Comparison): string {
  const size = from.join() === to.join() ? from.join(' × ') : `${from.join(' × ')} → ${to.join(' × ')}`;
  const differ = visible === 1 ? 'pixel differs' : 'pixels differ';
  const places = counted(regions.length, 'region');
  const pixels = `${visible.toLocaleString('en')} ${differ} visibly in ${places}`;
  const strength = visible > 0 && strongest < plainDistance ? ', faintly' : '';
  return `${pixels}${strength} · ${size}`;
}

const allowanceText = ({ kind, why, upTo }: Allowance): string => {
  if (kind === 'left-out') return `left out: ${why}`;
  return kind === 'difference' ? `up to ${upTo} is tolerated: ${why}` : 'anti-aliasing is tolerated';
};

function factsOf({ state, width, height, allowances }: CaptureSummary): string[] {
  const facts: string[] = [];
  if (state.kind === 'new') facts.push(`Nothing is approved here yet. It is ${width} × ${height} pixels.`);
  if (state.kind === 'changed') {
    facts.push(state.picture ? pictureFacts(state.picture) : 'The picture is the same; its markup differs');
    if (state.markup.length > 0) facts.push(counted(state.markup.length, 'line of markup', 'lines of markup'));
    if (state.isRedrawn) facts.push('approved with another browser; the baseline is as this browser draws it');
    else if (state.otherFingerprint) facts.push('the baseline was taken with another browser or other fonts');
  }
  return [...facts, ...new Set(allowances.map(allowanceText))];
}

export function Facts({ capture }: { capture: CaptureSummary }) {
  const { state } = capture;
  return (
    <p
      className="shrink-0 truncate px-4 pb-1.5 text-[11.5px] text-soft tabular-nums"
      title={factsOf(capture).join(' · ')}
    >
      {state.kind === 'unreadable' && (
        <span className="text-failed">
          ✗ {state.why.message} {state.why.remedy}
        </span>
      )}
      {factsOf(capture).join(' · ')}
    </p>
  );
}
