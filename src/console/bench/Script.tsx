/** The look file's source; in its margin, what came of the steps that each line made. A line leads to its step. */
import { useMemo } from 'react';
import { lineOfLook } from '../../core/look/source.ts';
import type { Problem } from '../../core/problem/problem.ts';
import type { Step, Timeline } from '../../core/timeline/timeline.ts';
import { type SourceLine, SourceLines } from '../parts/SourceLines.tsx';

type Props = {
  timeline: Timeline;
  file: string;
  look: string;
  current: number;
  /** What went wrong at the current step. */
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
  const source = timeline.source ?? '';
  const byLine = useMemo(() => {
    const map = new Map<number, Step[]>();
    for (const step of timeline.steps)
      if (step.source?.file === file) map.set(step.source.line, [...(map.get(step.source.line) ?? []), step]);
    return map;
  }, [timeline, file]);
  if (!source) return <p className="p-4 text-soft">The source of this look was not recorded.</p>;
  const step = timeline.steps[current];
  const wrongLine = lineOfProblem(problem, file);
  const line = step?.source?.file === file ? step.source.line : (wrongLine ?? lineOfLook(source, look));
  const lineOf = (number: number): SourceLine => {
    const steps = byLine.get(number) ?? [];
    const wrongStep = steps.find(({ outcome }) => outcome === 'failed' || outcome === 'broken');
    const wrong = wrongStep !== undefined || wrongLine === number;
    const isHere = line === number;
    const isBreak = steps.some(({ index }) => breaks.includes(index));
    const target = wrongStep ?? steps[0];
    return {
      margin: (
        <span
          className={`w-5 shrink-0 pl-1.5 text-center ${wrong || isBreak ? 'text-failed' : 'text-passed'}`}
          aria-hidden="true"
        >
          {isBreak ? '●' : wrong ? '✗' : steps.length > 0 ? '·' : ''}
        </span>
      ),
      wash: isHere ? (wrong ? 'bg-failed/12' : 'bg-wash') : '',
      ring: 'hover:bg-well',
      ink: isHere ? 'font-bold text-ink' : 'text-soft',
      onChoose: target ? () => onStep(target.index) : null,
    };
  };
  return <SourceLines path={file} text={source} current={line} margin={3} lineOf={lineOf} />;
}
