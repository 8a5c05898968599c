/** The look file's source; in its margin, what came of the steps that each line made. A line leads to its step. */
import { highlight } from 'sugar-high';
import { useEffect, useMemo, useRef } from 'react';
import { lineOfLook } from '../../core/look/source.ts';
import type { Problem } from '../../core/problem/problem.ts';
import type { Step, Timeline } from '../../core/timeline/timeline.ts';

type Props = {
  timeline: Timeline;
  file: string;
  look: string;
  current: number /** What went wrong at the current step. */;
  problem: Problem | undefined;
  /** Numbers of steps before which a live look stops. */
  breaks: readonly number[];
  onStep(index: number): void;
};

/** The line of a file that a problem points at, or null. */
function lineOfProblem(problem: Problem | undefined, file: string): number | null {
  const { place } = problem ?? {};
  return place?.startsWith(`${file}:`) ? Number(place.slice(file.length + 1).split(':')[0]) : null;
}

export function Script({ timeline, file, look, current, problem, breaks, onStep }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const source = timeline.source ?? '';
  const coloured = useMemo(() => highlight(source).split('\n'), [source]);
  const byLine = useMemo(() => {
    const map = new Map<number, Step[]>();
    for (const step of timeline.steps)
      if (step.source?.file === file) map.set(step.source.line, [...(map.get(step.source.line) ?? []), step]);
    return map;
  }, [timeline, file]);
  const step = timeline.steps[current];
  const wrongLine = lineOfProblem(problem, file);
  const line = step?.source?.file === file ? step.source.line : (wrongLine ?? lineOfLook(source, look));
  useEffect(() => {
    area.current?.querySelector('[data-current]')?.scrollIntoView({ block: 'center' });
  }, [line, source]);
  if (!source) return <p className="p-4 text-soft">The source of this look was not recorded.</p>;
  return (
    <div ref={area} className="h-full overflow-auto bg-sheet py-2 font-mono text-[11.5px] leading-[18px]">
      <ol className="w-max min-w-full" aria-label={`Source of ${file}`}>
        {coloured.map((html, i) => {
          const steps = byLine.get(i + 1) ?? [];
          const wrongStep = steps.find(({ outcome }) => outcome === 'failed' || outcome === 'broken');
          const wrong = wrongStep !== undefined || wrongLine === i + 1;
          const here = line === i + 1;
          const isBreak = steps.some(({ index }) => breaks.includes(index));
          const content = (
            <>
              <span
                className={`w-5 shrink-0 pl-1.5 text-center ${wrong || isBreak ? 'text-failed' : 'text-passed'}`}
                aria-hidden="true"
              >
                {isBreak ? '●' : wrong ? '✗' : steps.length > 0 ? '·' : ''}
              </span>
              <span className={`w-8 shrink-0 pr-2 text-right select-none ${here ? 'font-bold text-ink' : 'text-soft'}`}>
                {i + 1}
              </span>
              {/* The source is the project's own; the highlighter escapes it. */}
              {/* biome-ignore lint/security/noDangerouslySetInnerHtml: see above */}
              <code className="pr-4" dangerouslySetInnerHTML={{ __html: html || ' ' }} />
            </>
          );
          return (
            <li
              key={i}
              data-current={here ? '' : undefined}
              className={`whitespace-pre ${here ? (wrong ? 'bg-failed/12' : 'bg-wash') : ''}`}
            >
              {steps[0] ? (
                // The arrow keys travel the steps, so that Tab need not stop at every line.
                <button
                  type="button"
                  tabIndex={-1}
                  className="flex w-full text-left hover:bg-well"
                  onClick={() => onStep((wrongStep ?? steps[0]!).index)}
                >
                  {content}
                </button>
              ) : (
                <span className="flex">{content}</span>
              )}
            </li>
          );
        })}
      </ol>
    </div>
  );
}
