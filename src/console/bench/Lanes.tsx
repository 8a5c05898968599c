/** The timeline: steps, changes of the document, network, console and spies on one clock, with the playhead. */
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Lane, Mark, Timeline } from '../../core/timeline/timeline.ts';
import { CostRow } from './CostRow.tsx';
import { MarkRow } from './MarkRow.tsx';
import { compressedScale, type Scale } from './scale.ts';
import { StepBar } from './StepBar.tsx';
import { milliseconds } from './time.ts';
import { endTime, type Position } from './travel.ts';

const lanes: { lane: Lane; title: string }[] = [
  { lane: 'dom', title: 'Document' },
  { lane: 'network', title: 'Network' },
  { lane: 'console', title: 'Console' },
  { lane: 'spies', title: 'Spies' },
];

const scrolls = 'relative max-h-[30vh] shrink-0 overflow-x-hidden overflow-y-auto';
const left = 76;
const axisHeight = 20;
const stepsHeight = 40;
const laneHeight = 24;

/** The width that the axis has, in pixels. */
function useAxisWidth(area: React.RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(1000);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.max(200, entry!.contentRect.width - left - 20)));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, [area]);
  return width;
}

/** The axis: times, with a line down through all lanes. */
function Ticks({ scale, width, height, playhead }: { scale: Scale; width: number; height: number; playhead: number }) {
  return scale.ticks.map(({ time, x }) => {
    const side = x > width - 40 ? -1 : 1;
    // The playhead's own time is shown above; a label that it would stand on gives way.
    const free = Math.abs(playhead - x - side * 30) > 27;
    return (
      <g key={time} transform={`translate(${x} 0)`}>
        <line y1={axisHeight - 4} y2={height} className="stroke-rule" strokeDasharray="1 3" />
        {free && (
          <text y={12} x={side * 9} textAnchor={side < 0 ? 'end' : 'start'} className="fill-soft font-mono text-[10px]">
            {milliseconds(time)}
          </text>
        )}
      </g>
    );
  });
}

/** The names of the rows, left of the axis. */
function Names({ used, isTimed, top }: { used: typeof lanes; isTimed: boolean; top: number }) {
  return (
    <g className="fill-soft text-[11px]">
      <text x={12} y={axisHeight + 24}>
        Steps
      </text>
      {isTimed && (
        <text x={12} y={axisHeight + stepsHeight + 16}>
          Cost
        </text>
      )}
      {used.map(({ lane, title }, row) => (
        <text key={lane} x={12} y={top + row * laneHeight + 16}>
          {title}
        </text>
      ))}
    </g>
  );
}

/** What happened in each lane, one row below the other. */
function MarkRows({
  used,
  marks,
  ...rest
}: {
  used: typeof lanes;
  marks: readonly Mark[];
  scale: Scale;
  width: number;
}) {
  return used.map(({ lane }, row) => (
    <g key={lane} transform={`translate(0 ${row * laneHeight})`}>
      <line x2={rest.width} y1={0.5} y2={0.5} className="stroke-rule" />
      <MarkRow lane={lane} marks={marks.filter((mark) => mark.lane === lane)} {...rest} />
    </g>
  ));
}

/** Where the position is, down through all lanes. */
function Playhead({ x, height }: { x: number; height: number }) {
  return (
    <g transform={`translate(${x} 0)`} className="pointer-events-none">
      <line y1={axisHeight - 6} y2={height} className="stroke-ink" strokeWidth={1.5} />
      <path d={`M-6 ${axisHeight - 13}H6L0 ${axisHeight - 5}Z`} className="fill-ink" />
    </g>
  );
}

type Props = { timeline: Timeline; position: Position; onScrub(time: number): void; onStep(index: number): void };

export function Lanes({ timeline, position, onScrub, onStep }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const width = useAxisWidth(area);
  const end = endTime(timeline);
  const scale = useMemo(
    () =>
      compressedScale(
        timeline.steps.flatMap((step) => [step.at, step.at + (step.took ?? 0)]),
        end,
        width,
      ),
    [timeline, end, width],
  );
  const used = lanes.filter(({ lane }) => lane === 'dom' || timeline.marks.some((mark) => mark.lane === lane));
  const isTimed = timeline.steps.some(({ costs }) => costs);
  const lanesTop = axisHeight + stepsHeight + (isTimed ? laneHeight : 0);
  const height = lanesTop + used.length * laneHeight + 6;
  const timeAt = (event: React.PointerEvent): number =>
    scale.time(event.clientX - area.current!.getBoundingClientRect().left - left);
  const playhead = scale.x(position.time);

  return (
    <div
      ref={area}
      className={`${scrolls} border-t border-rule bg-sheet select-none`}
      role="slider"
      tabIndex={0}
      aria-label="Playhead"
      aria-valuemin={0}
      aria-valuemax={Math.round(end)}
      aria-valuenow={Math.round(position.time)}
      aria-valuetext={`${milliseconds(position.time)}, ${timeline.steps[position.step]?.title ?? ''}`}
    >
      <svg
        width={width + left + 20}
        height={height}
        className="block touch-none"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          onScrub(timeAt(event));
        }}
        onPointerMove={(event) => event.buttons & 1 && onScrub(timeAt(event))}
      >
        <g transform={`translate(${left} 0)`}>
          <Ticks scale={scale} width={width} height={height} playhead={playhead} />
          {timeline.steps.map((step) => (
            <StepBar
              key={step.index}
              step={step}
              scale={scale}
              top={axisHeight}
              chosen={step.index === position.step}
              onChoose={() => onStep(step.index)}
            />
          ))}
          {isTimed && (
            <g transform={`translate(0 ${axisHeight + stepsHeight})`}>
              <line x2={width} y1={0.5} y2={0.5} className="stroke-rule" />
              <CostRow steps={timeline.steps} scale={scale} />
            </g>
          )}
          <g transform={`translate(0 ${lanesTop})`}>
            <MarkRows used={used} marks={timeline.marks} scale={scale} width={width} />
          </g>
          <Playhead x={playhead} height={height} />
        </g>
        <Names used={used} isTimed={isTimed} top={lanesTop} />
      </svg>
    </div>
  );
}
