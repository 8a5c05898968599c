/** The timeline: steps, changes of the document, network, console and spies on one clock, with the playhead. */
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Lane, Step, Timeline } from '../../core/timeline/timeline.ts';
import { MarkRow } from './MarkRow.tsx';
import { compressedScale } from './scale.ts';
import { milliseconds } from './time.ts';
import { endTime, type Position } from './travel.ts';

const lanes: { lane: Lane; title: string }[] = [
  { lane: 'dom', title: 'Document' },
  { lane: 'network', title: 'Network' },
  { lane: 'console', title: 'Console' },
  { lane: 'spies', title: 'Spies' },
];

const left = 76;
const axisHeight = 20;
const stepsHeight = 40;
const laneHeight = 24;

const kinds: Record<Step['kind'], string> = {
  mount: '▣',
  action: '▸',
  check: '?',
  answer: '⇄',
  capture: '◉',
  part: '',
  navigation: '↷',
  error: '!',
};

const tone = (step: Step): string =>
  step.outcome === 'failed'
    ? 'fill-failed'
    : step.outcome === 'broken'
      ? 'fill-broken'
      : step.kind === 'part'
        ? 'fill-rule'
        : 'fill-accent';
type Props = { timeline: Timeline; position: Position; onScrub(time: number): void; onStep(index: number): void };

export function Lanes({ timeline, position, onScrub, onStep }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1000);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.max(200, entry!.contentRect.width - left - 20)));
    observer.observe(area.current!);
    return () => observer.disconnect();
  }, []);
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
  const height = axisHeight + stepsHeight + used.length * laneHeight + 6;
  const timeAt = (event: React.PointerEvent): number =>
    scale.time(event.clientX - area.current!.getBoundingClientRect().left - left);
  const playhead = scale.x(position.time);

  return (
    <div
      ref={area}
      className="relative max-h-[30vh] shrink-0 overflow-x-hidden overflow-y-auto border-t border-rule bg-sheet select-none"
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
          {scale.ticks.map(({ time, x }) => {
            const side = x > width - 40 ? -1 : 1;
            // The playhead's own time is told above; a label that it would stand on gives way.
            const free = Math.abs(playhead - x - side * 30) > 27;
            return (
              <g key={time} transform={`translate(${x} 0)`}>
                <line y1={axisHeight - 4} y2={height} className="stroke-rule" strokeDasharray="1 3" />
                {free && (
                  <text
                    y={12}
                    x={side * 9}
                    textAnchor={side < 0 ? 'end' : 'start'}
                    className="fill-soft font-mono text-[10px]"
                  >
                    {milliseconds(time)}
                  </text>
                )}
              </g>
            );
          })}
          {timeline.steps.map((step) => {
            const x = scale.x(step.at);
            const w = Math.max(3, scale.x(step.at + (step.took ?? 0)) - x - 1);
            const chosen = step.index === position.step;
            const part = step.kind === 'part';
            return (
              <g
                key={step.index}
                className="cursor-pointer"
                onPointerDown={(event) => {
                  event.stopPropagation();
                  onStep(step.index);
                }}
              >
                <title>{`${step.index + 1}. ${step.title} · ${step.outcome} · ${milliseconds(step.took ?? 0)}`}</title>
                <rect
                  x={x}
                  y={part ? axisHeight + 1 : axisHeight + 9}
                  width={w}
                  height={part ? 5 : 22}
                  rx={2.5}
                  className={`${tone(step)} ${chosen ? '' : part ? 'opacity-90' : 'opacity-55 hover:opacity-90'}`}
                />
                {chosen && !part && (
                  <rect
                    x={x - 1.5}
                    y={axisHeight + 7.5}
                    width={w + 3}
                    height={25}
                    rx={3.5}
                    fill="none"
                    className="stroke-ink"
                    strokeWidth={1.5}
                  />
                )}
                {w > 13 && !part && (
                  <text x={x + 4} y={axisHeight + 24} className="pointer-events-none fill-paper text-[11px] font-bold">
                    {step.outcome === 'failed' ? '✗' : step.outcome === 'broken' ? '▲' : kinds[step.kind]}
                  </text>
                )}
                {w > 90 && !part && (
                  <text x={x + 19} y={axisHeight + 23.5} className="pointer-events-none fill-paper text-[10.5px]">
                    {step.title.slice(0, Math.floor((w - 24) / 6.3))}
                  </text>
                )}
              </g>
            );
          })}
          {used.map(({ lane }, row) => {
            const y = axisHeight + stepsHeight + row * laneHeight;
            return (
              <g key={lane} transform={`translate(0 ${y})`}>
                <line x2={width} y1={0.5} y2={0.5} className="stroke-rule" />
                <MarkRow
                  lane={lane}
                  marks={timeline.marks.filter((mark) => mark.lane === lane)}
                  scale={scale}
                  width={width}
                />
              </g>
            );
          })}
          <g transform={`translate(${playhead} 0)`} className="pointer-events-none">
            <line y1={axisHeight - 6} y2={height} className="stroke-ink" strokeWidth={1.5} />
            <path d={`M-6 ${axisHeight - 13}H6L0 ${axisHeight - 5}Z`} className="fill-ink" />
          </g>
        </g>
        <g className="fill-soft text-[11px]">
          <text x={12} y={axisHeight + 24}>
            Steps
          </text>
          {used.map(({ lane, title }, row) => (
            <text key={lane} x={12} y={axisHeight + stepsHeight + row * laneHeight + 16}>
              {title}
            </text>
          ))}
        </g>
      </svg>
    </div>
  );
}
