/** The steps of a live look so far, and in their margin where it is to stop. */
import { useEffect, useRef } from 'react';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Sitting } from './useSitting.ts';

const marks: Record<Step['outcome'], [sign: string, tone: string]> = {
  passed: ['✓', 'text-passed'],
  failed: ['✗', 'text-failed'],
  broken: ['▲', 'text-broken'],
  running: ['▸', 'text-accent'],
};

type RowProps = {
  step: Step;
  number: number | null;
  depth: number;
  isHere: boolean;
  /** It has not come yet. */
  isAhead?: boolean;
  sitting: Sitting;
};

const margin = 'flex h-6 w-9 shrink-0 items-center justify-end gap-1';
const row = 'flex min-h-6 items-center gap-1.5 px-2';

function Row({ step, number, depth, isHere, isAhead = false, sitting }: RowProps) {
  const [sign, tone] = isAhead ? ['·', 'text-soft'] : marks[step.outcome];
  const { phase, stop } = sitting.state;
  const mayGo = isAhead && phase === 'stopped' && stop?.why !== 'end';
  const isBreak = number !== null && sitting.breaks.includes(number);
  return (
    <li
      data-here={isHere ? '' : undefined}
      className={`${row} ${isHere ? 'bg-wash' : ''} ${step.tried ? 'text-soft italic' : ''}`}
    >
      {number === null ? (
        <span className="w-9 shrink-0 text-right text-[11px]">tried</span>
      ) : (
        <button
          type="button"
          aria-pressed={isBreak}
          aria-label={`Stop before step ${number}`}
          title="Stop here whenever it comes here"
          onClick={() => sitting.toggleBreak(number)}
          className={`${margin} text-[11px] text-soft tabular-nums hover:text-ink`}
        >
          <span className={isBreak ? 'text-failed' : 'text-transparent'}>●</span>
          {number}
        </button>
      )}
      <span className={`w-3 shrink-0 text-center ${tone}`} title={isAhead ? 'still to come' : step.outcome}>
        {sign}
      </span>
      <span className={`min-w-0 flex-1 break-words ${isAhead ? 'text-soft' : ''}`} style={{ paddingLeft: depth * 12 }}>
        {step.title}
      </span>
      {mayGo && (
        <button
          type="button"
          aria-label={`Go on to step ${number}`}
          title="Go on to here"
          onClick={() => sitting.go({ to: number })}
          className="shrink-0 text-soft hover:text-accent"
        >
          ⇥
        </button>
      )}
      {step.source && <span className="shrink-0 font-mono text-[11px] text-soft">:{step.source.line}</span>}
    </li>
  );
}

export function Steps({ sitting }: { sitting: Sitting }) {
  const { steps, stop } = sitting.state;
  const area = useRef<HTMLOListElement>(null);
  const here = stop?.step ?? null;
  useEffect(() => {
    area.current?.querySelector('[data-here]')?.scrollIntoView({ block: 'nearest' });
  }, [here, steps.length]);
  const { followed } = sitting;
  const ahead = followed.slice(steps.filter(({ tried }) => !tried).length);
  let count = 0;
  const depthIn = (all: readonly Step[], { parent }: Step): number =>
    parent === null || !all[parent] ? 0 : 1 + depthIn(all, all[parent]);
  return (
    <ol ref={area} aria-label="Steps" className="min-h-0 overflow-y-auto py-1">
      {steps.map((step) => (
        <Row
          key={step.index}
          step={step}
          number={step.tried ? null : count++}
          depth={depthIn(steps, step)}
          isHere={step.index === here}
          sitting={sitting}
        />
      ))}
      {ahead.map((step) => (
        <Row
          key={`ahead ${step.index}`}
          step={step}
          number={step.index}
          depth={depthIn(followed, step)}
          isHere={false}
          isAhead
          sitting={sitting}
        />
      ))}
    </ol>
  );
}
