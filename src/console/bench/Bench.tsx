/** The bench: one look of one run, moment by moment. */
import { useParams } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import type { Problem } from '../../core/problem/problem.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import type { Timeline } from '../../core/timeline/timeline.ts';
import { useResult, useTimeline } from '../data.ts';
import { Trouble, Waiting } from '../parts/Blank.tsx';
import { ProblemCard } from '../parts/ProblemCard.tsx';
import { site } from '../site.ts';
import { Details } from './Details.tsx';
import { Header } from './Header.tsx';
import { Lanes } from './Lanes.tsx';
import { Script } from './Script.tsx';
import { Seen } from './Seen.tsx';
import { type Desk, useDesk } from './useDesk.ts';
import { useTitle } from '../title.ts';
import { lookTitle } from '../../core/look/look.ts';

type Props = { project: ProjectInfo; dark: boolean };

const halves = 'grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,11fr)_minmax(0,9fr)]';

export function Bench({ project, dark }: Props) {
  const id = Number(useParams().id);
  const result = useResult(id);
  const timeline = useTimeline(id);
  if (result.isError || timeline.isError) return <Trouble error={result.error ?? timeline.error} />;
  if (result.isPending || timeline.isPending) return <Waiting what="Fetching the timeline…" />;
  return <Workbench key={id} project={project} dark={dark} result={result.data} timeline={timeline.data} />;
}

/**
 * The problems to show at a step. What the whole look came to is told at the step where it did, with all that is
 * known of it.
 */
function problemsAt({ steps }: Timeline, { step, failed }: Desk, { problem }: ResultSummary): Problem[] {
  const isEnd = step !== undefined && step.index === (failed?.index ?? steps.length - 1);
  const whole = isEnd ? problem : null;
  const own = step?.problem?.code === whole?.code ? undefined : step?.problem;
  return [own, whole].filter((one) => one != null);
}

function Workbench({ project, dark, result, timeline }: Props & { result: ResultSummary; timeline: Timeline }) {
  useTitle(`${lookTitle(result.component, result.look)} · ${result.environment}`);
  const desk = useDesk(result, timeline);
  const problems = problemsAt(timeline, desk, result);
  return (
    <div className="flex h-full flex-col">
      <Header result={result} desk={desk} />
      {desk.problem && (
        <div className="shrink-0 border-b border-rule px-4 py-2">
          <ProblemCard problem={desk.problem} about="Going live" />
        </div>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(360px,34%)_1fr]">
        <div className={`grid min-h-0 min-w-0 ${halves} border-r border-rule`}>
          <Script
            timeline={timeline}
            file={result.file}
            look={result.look}
            current={desk.position.step}
            problem={problems[0]}
            breaks={desk.breaks}
            onStep={(index) => desk.toStep(index)}
          />
          <Details
            result={result}
            timeline={timeline}
            step={desk.step}
            problems={problems}
            onStep={(index) => desk.toStep(index)}
          />
        </div>
        <Seen project={project} dark={dark} result={result} timeline={timeline} desk={desk} />
      </div>
      <Lanes
        timeline={timeline}
        position={desk.position}
        onScrub={desk.toTime}
        onStep={(index) => desk.toStep(index)}
      />
      <Hints failed={desk.failed !== null} />
    </div>
  );
}

/** The keys of the bench. */
const Hints = ({ failed }: { failed: boolean }) => (
  <p className="flex min-h-6 shrink-0 flex-wrap items-center gap-x-3 border-t border-rule px-4 text-[11px] text-soft">
    <span>
      <kbd>←</kbd> <kbd>→</kbd> step
    </span>
    <span>
      <kbd>Shift</kbd> <kbd>←</kbd> <kbd>→</kbd> moment
    </span>
    <span>
      <kbd>b</kbd> before or after
    </span>
    {failed && (
      <span>
        <kbd>f</kbd> where it went wrong
      </span>
    )}
    {!site && (
      <>
        <span>
          <kbd>r</kbd> run again
        </span>
        <span>
          <kbd>l</kbd> go live from here
        </span>
        <span>
          <kbd>x</kbd> stop before this step
        </span>
      </>
    )}
    <span className="ml-auto max-lg:hidden">Long waits are shortened</span>
  </p>
);
