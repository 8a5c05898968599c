/** What there is to know about the step, or about the look as a whole. */
import { Tabs } from 'radix-ui';
import { isDecisive } from '../../core/problem/notes.ts';
import type { Problem } from '../../core/problem/problem.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { hasFailed } from '../../core/run/verdict.ts';
import type { Step, Timeline } from '../../core/timeline/timeline.ts';
import { counted } from '../../core/text/counted.ts';
import { LookCard } from './LookCard.tsx';
import { Since } from './Since.tsx';
import { StepCard } from './StepCard.tsx';

type Props = {
  result: ResultSummary;
  timeline: Timeline;
  step: Step | undefined;
  problems: Problem[];
  onStep(index: number): void;
};

const tab =
  'h-7 border-b-2 border-transparent text-soft data-[state=active]:border-accent data-[state=active]:text-ink';

export function Details({ result, timeline, step, problems, onStep }: Props) {
  const notes = result.notes.length;
  return (
    <Tabs.Root defaultValue="step" className="flex min-h-0 flex-col border-t border-rule">
      <Tabs.List className="flex shrink-0 gap-4 border-b border-rule px-3" aria-label="Details">
        <Tabs.Trigger value="step" className={tab}>
          Step
        </Tabs.Trigger>
        <Tabs.Trigger value="look" className={tab}>
          Look{notes > 0 && ` · ${counted(notes, 'note')}`}
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="step" className="min-h-0 flex-1 overflow-y-auto">
        {step && (
          <StepCard
            step={step}
            problems={problems}
            notes={problems.length > 0 ? result.notes.filter(isDecisive) : []}
            marks={timeline.marks}
            count={timeline.steps.length}
            flame={timeline.flames?.[step.index]}
            shownFile={timeline.source ? result.file : null}
          />
        )}
        {hasFailed(result) && problems.length > 0 && <Since result={result} onStep={onStep} />}
      </Tabs.Content>
      <Tabs.Content value="look" className="min-h-0 flex-1 overflow-y-auto">
        <LookCard result={result} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
