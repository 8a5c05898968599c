/** One step on the timeline: a bar as long as the step took, with its kind and, where there is room, its title. */
import { shortened } from '../../core/text/folded.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { Scale } from './scale.ts';
import { milliseconds } from './time.ts';

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

const symbol = ({ outcome, kind }: Step): string =>
  outcome === 'failed' ? '✗' : outcome === 'broken' ? '▲' : kinds[kind];

type Props = { step: Step; scale: Scale; top: number; chosen: boolean; onChoose(): void };

/** Parts are thin bars above the steps that they hold. */
export function StepBar({ step, scale, top, chosen, onChoose }: Props) {
  const x = scale.x(step.at);
  const width = Math.max(3, scale.x(step.at + (step.took ?? 0)) - x - 1);
  const part = step.kind === 'part';
  // What is not chosen is pale, and written on as paper is.
  const ink = chosen ? 'fill-paper' : 'fill-ink';
  return (
    <g
      className="cursor-pointer"
      onPointerDown={(event) => {
        event.stopPropagation();
        onChoose();
      }}
    >
      <title>{`${step.index + 1}. ${step.title} · ${step.outcome} · ${milliseconds(step.took ?? 0)}`}</title>
      <rect
        x={x}
        y={part ? top + 1 : top + 9}
        width={width}
        height={part ? 5 : 22}
        rx={2.5}
        className={`${tone(step)} ${chosen ? '' : part ? 'opacity-90' : 'opacity-35 hover:opacity-55'}`}
      />
      {chosen && !part && (
        <rect
          x={x - 1.5}
          y={top + 7.5}
          width={width + 3}
          height={25}
          rx={3.5}
          fill="none"
          className="stroke-ink"
          strokeWidth={1.5}
        />
      )}
      {width > 13 && !part && (
        <text x={x + 4} y={top + 24} className={`pointer-events-none ${ink} text-[11px] font-bold`}>
          {symbol(step)}
        </text>
      )}
      {width > 90 && !part && (
        <text x={x + 19} y={top + 23.5} className={`pointer-events-none ${ink} text-[10.5px]`}>
          {shortened(step.title, Math.floor((width - 24) / 6.3))}
        </text>
      )}
    </g>
  );
}
