/** What the page showed at the position: the moment drawn again, or the screenshot of a capture. */
import { useState } from 'react';
import type { ProjectInfo } from '../../core/api/api.ts';
import type { CaptureSummary, ResultSummary } from '../../core/run/run.ts';
import type { Timeline } from '../../core/timeline/timeline.ts';
import { service } from '../data.ts';
import { Blank } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { Choice, type Option } from '../parts/Choice.tsx';
import { Stage } from './Stage.tsx';
import { milliseconds } from './time.ts';
import type { Position } from './travel.ts';
import type { Desk } from './useDesk.ts';

type Props = { project: ProjectInfo; dark: boolean; result: ResultSummary; timeline: Timeline; desk: Desk };

const sides: Option<Position['side']>[] = [
  { value: 'before', label: 'before' },
  { value: 'after', label: 'after' },
];

function captureAt({ captures }: ResultSummary, { step }: Desk): CaptureSummary | undefined {
  return step?.capture === undefined
    ? undefined
    : captures.find(({ name, step: taken }) => name === step.capture && taken === step.index);
}

export function Seen({ project, dark, result, timeline, desk }: Props) {
  const [seen, setSeen] = useState<'moment' | 'screenshot'>('moment');
  const { position, step, toStep } = desk;
  const capture = captureAt(result, desk);
  const pointer = position.side === 'after' && step?.kind === 'action' ? (step.pointer ?? null) : null;
  return (
    <div className="flex min-h-0 min-w-0 flex-col bg-well">
      <div className="flex h-9 shrink-0 items-center gap-2 px-3">
        <Choice
          label="Before or after the step"
          value={position.side}
          options={sides}
          onChoose={(side) => toStep(position.step, side)}
        />
        <kbd>b</kbd>
        <span className="truncate text-soft">{step?.title}</span>
        <span className="flex-1" />
        {capture && (
          <Button onClick={() => setSeen(seen === 'moment' ? 'screenshot' : 'moment')}>
            {seen === 'moment' ? 'Show screenshot' : 'Show moment'}
          </Button>
        )}
        <span className="text-[11.5px] whitespace-nowrap text-soft tabular-nums">
          moment {position.moment} of {timeline.patches.length} · {milliseconds(position.time)}
        </span>
      </div>
      <div className="min-h-0 flex-1 px-3 pb-3">
        {capture && seen === 'screenshot' ? (
          <div className="checks h-full overflow-auto">
            <img src={service.pictureUrl(capture.hash)} alt={`Capture ${capture.name}`} />
          </div>
        ) : timeline.base.view.width === 0 ? (
          <Blank title="Nothing to show">The look ended before its page was loaded.</Blank>
        ) : (
          <Stage
            project={project}
            timeline={timeline}
            environment={result.environment}
            moment={position.moment}
            outline={step?.target?.node ?? null}
            cover={step?.outcome === 'failed' ? (step.cover ?? null) : null}
            pointer={pointer}
            dark={dark}
          />
        )}
      </div>
    </div>
  );
}
