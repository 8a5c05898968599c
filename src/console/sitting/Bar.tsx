/** Above a live look: where its script stands, and how it goes on. */
import type { StopWhy } from '../../core/sitting/sitting.ts';
import { Button } from '../parts/Button.tsx';
import { Crumbs } from '../parts/Crumbs.tsx';
import type { Sitting } from './useSitting.ts';

const whys: Record<StopWhy, string> = {
  pause: 'Paused before step',
  breakpoint: 'At a breakpoint, before step',
  reached: 'Stopped before step',
  next: 'Stopped before step',
  failure: 'Failed at step',
  end: 'At the end',
};

function where({ state: { phase, stop } }: Sitting): string {
  if (phase === 'starting') return 'Starting';
  if (phase === 'over') return 'Closed';
  if (!stop) return 'Running';
  return stop.why === 'end' ? whys.end : `${whys[stop.why]} ${stop.number}`;
}

export function Bar({ sitting }: { sitting: Sitting }) {
  const { component, look, environment, phase, stop, isTimeRunning } = sitting.state;
  const isStopped = phase === 'stopped';
  const mayGo = isStopped && stop?.why !== 'end';
  return (
    <div className="flex h-10 shrink-0 items-center gap-2 border-b border-rule px-4">
      <Crumbs component={component} />
      <h1 className="truncate text-[14px] font-semibold">{look}</h1>
      <span className="text-soft">{environment}</span>
      <span role="status" className={stop?.why === 'failure' ? 'text-failed' : 'text-accent'}>
        {stop?.why === 'failure' ? '✗ ' : '◆ '}
        {where(sitting)}
      </span>
      <span className="flex-1" />
      <Button disabled={!mayGo} onClick={() => sitting.go()} title="To the next stop, or to the end (g)" shortcut="g">
        Go on
      </Button>
      <Button disabled={!mayGo} onClick={() => sitting.go({ go: 'over' })} title="Over the next step (o)" shortcut="o">
        Over
      </Button>
      <Button disabled={!mayGo} onClick={() => sitting.go({ go: 'into' })} title="Into the next step (i)" shortcut="i">
        Into
      </Button>
      <Button
        disabled={!isStopped}
        aria-pressed={isTimeRunning}
        onClick={() => sitting.setTime(!isTimeRunning)}
        title="Timers and animations wait until time runs (m)"
        shortcut="m"
        className="aria-pressed:border-accent aria-pressed:bg-wash"
      >
        {isTimeRunning ? 'Time runs' : 'Time stands'}
      </Button>
      <Button
        disabled={!isStopped}
        aria-pressed={sitting.isPointing}
        onClick={() => sitting.setPointing(!sitting.isPointing)}
        title="Choose an element: which target names it, what it is, and how it is styled (e)"
        shortcut="e"
        className="aria-pressed:border-accent aria-pressed:bg-wash"
      >
        Point
      </Button>
      {phase === 'over' ? (
        <Button tone="strong" onClick={sitting.again}>
          Go live again
        </Button>
      ) : (
        <Button onClick={sitting.end}>Close</Button>
      )}
    </div>
  );
}
