/** The lane of what steps cost the browser: a bar below each, of script, style, layout and paint. */
import type { Step } from '../../core/timeline/timeline.ts';
import type { Scale } from './scale.ts';

export const costParts = [
  { kind: 'script', fill: 'fill-accent', swatch: 'bg-accent' },
  { kind: 'style', fill: 'fill-new', swatch: 'bg-new' },
  { kind: 'layout', fill: 'fill-changed', swatch: 'bg-changed' },
  { kind: 'paint', fill: 'fill-passed', swatch: 'bg-passed' },
] as const;

export function CostRow({ steps, scale }: { steps: readonly Step[]; scale: Scale }) {
  return steps.map(({ index, kind, at, took, costs }) => {
    if (!costs || kind === 'part') return null;
    const from = scale.x(at);
    // Bars are drawn to the scale of their step: what is free of it was spent waiting.
    const width = Math.max(3, scale.x(at + (took ?? 0)) - from - 1);
    const perMillisecond = took ? width / took : 0;
    let x = from;
    return (
      <g key={index}>
        <title>
          {costParts.map(({ kind: part }) => `${part} ${costs[part].toFixed(1)} ms`).join(', ')}
          {costs.longTasks > 0 ? `, long tasks ${costs.longTasks}` : ''}
        </title>
        <rect x={from} y={8} width={width} height={9} rx={2} className="fill-well" />
        {costParts.map(({ kind: part, fill }) => {
          const wide = Math.min(costs[part] * perMillisecond, from + width - x);
          const left = x;
          x += wide;
          return wide < 0.5 ? null : <rect key={part} x={left} y={8} width={wide} height={9} className={fill} />;
        })}
        {costs.longTasks > 0 && (
          <text x={from + width + 3} y={17} className="fill-failed text-[11px] font-bold">
            !
          </text>
        )}
      </g>
    );
  });
}
