/** The bench: one look of one run, moment by moment. */
import { Tabs, ToggleGroup } from 'radix-ui';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import { shortName } from '../../core/look/look.ts';
import { isUndecided, type ResultSummary, standing } from '../../core/run/run.ts';
import { failingStep, type Timeline } from '../../core/timeline/timeline.ts';
import { boardOrder } from '../board/rows.ts';
import { service, useLooks, useResult, useStart, useTimeline } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { Verdict } from '../parts/Verdict.tsx';
import { Lanes } from './Lanes.tsx';
import { LookCard } from './LookCard.tsx';
import { Script } from './Script.tsx';
import { Stage } from './Stage.tsx';
import { StepCard } from './StepCard.tsx';
import { milliseconds } from './time.ts';
import { atStep, atTime, firstPosition, moveBy, type Position } from './travel.ts';

export function Bench({ project, dark }: { project: ProjectInfo; dark: boolean }) {
  const id = Number(useParams().id);
  const result = useResult(id);
  const timeline = useTimeline(id);
  if (result.isError || timeline.isError) return <Trouble error={result.error ?? timeline.error} />;
  if (result.isPending || timeline.isPending) return <Waiting what="Fetching the timeline…" />;
  return <Desk key={id} project={project} dark={dark} result={result.data} timeline={timeline.data} />;
}

function Desk({
  project,
  dark,
  result,
  timeline,
}: {
  project: ProjectInfo;
  dark: boolean;
  result: ResultSummary;
  timeline: Timeline;
}) {
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const start = useStart();
  const asked = query.get('step');
  const [position, setPosition] = useState<Position>(() =>
    firstPosition(timeline, asked === null ? null : Number(asked)),
  );
  const [seen, setSeen] = useState<'moment' | 'screenshot'>('moment');
  const step = timeline.steps[position.step];
  const capture = step?.capture
    ? result.captures.find(({ name, step: taken }) => name === step.capture && taken === step.index)
    : undefined;
  const failed = failingStep(timeline.steps);
  // The address is changed with the position, not in an effect after it: that may come when somebody has already gone on to another look.
  const go = (next: Position): void => {
    setPosition(next);
    if (next.step !== position.step) setQuery({ step: String(next.step) }, { replace: true });
  };

  // What the whole look came to is told at the step where it did, with all that is known of it.
  const whole = step && step.index === (failed?.index ?? timeline.steps.length - 1) ? result.problem : null;
  const problems = [step?.problem?.code === whole?.code ? null : step?.problem, whole].filter((one) => one != null);
  const looks = useLooks().data ?? [];
  const beside = useMemo(() => {
    const same = looks
      .filter((look) => look.component === result.component && look.environment === result.environment)
      .sort(boardOrder);
    const at = same.findIndex((look) => look.look === result.look);
    return { previous: same[at - 1], next: same[at + 1] };
  }, [looks, result]);
  const newest = looks.find(
    (look) =>
      look.component === result.component && look.look === result.look && look.environment === result.environment,
  );
  const open = (look: ResultSummary | undefined): void =>
    void (look && navigate(`/bench/${look.id}${look.failedStep === null ? '' : `?step=${look.failedStep}`}`));

  useKeys({
    ArrowRight: () => go(moveBy(timeline, position, 1)),
    ArrowLeft: () => go(moveBy(timeline, position, -1)),
    'Shift+ArrowRight': () =>
      go(atTime(timeline, timeline.taken[Math.min(timeline.taken.length - 1, position.moment + 1)] ?? 0)),
    'Shift+ArrowLeft': () => go(atTime(timeline, timeline.taken[Math.max(0, position.moment - 1)] ?? 0)),
    Home: () => go(atStep(timeline, 0, 'before')),
    End: () => go(atStep(timeline, timeline.steps.length - 1)),
    b: () => go(atStep(timeline, position.step, position.side === 'before' ? 'after' : 'before')),
    f: () => failed && go(atStep(timeline, failed.index)),
    n: () => open(beside.next),
    p: () => open(beside.previous),
    r: () => start({ patterns: [`${result.component}/${result.look}`], environments: [result.environment] }),
    Escape: () => void navigate('/'),
  });

  return (
    <div className="flex h-full flex-col">
      <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
        <Link to="/" className="text-soft hover:text-ink" title="Back to the board (Esc)">
          Board
        </Link>
        <span className="text-rule">/</span>
        <Link to={`/?q=${encodeURIComponent(shortName(result.component))}`} className="text-soft hover:text-ink">
          {shortName(result.component)}
        </Link>
        <span className="text-rule">/</span>
        <h1 className="truncate text-[14px] font-semibold">{result.look}</h1>
        <Verdict verdict={standing(result)} />
        <span className="text-soft">
          {result.environment} · run {result.run}
          {result.orderDependent ? ' · depends on what ran before it' : ''}
        </span>
        {newest && newest.id > result.id && <Button onClick={() => open(newest)}>A newer run is there</Button>}
        <span className="flex-1" />
        {result.captures.some(isUndecided) && (
          <Button onClick={() => void navigate(`/review?result=${result.id}`)}>Review its captures</Button>
        )}
        <Button onClick={() => open(beside.previous)} disabled={!beside.previous} title="Previous look (p)">
          ↑ <kbd>p</kbd>
        </Button>
        <Button onClick={() => open(beside.next)} disabled={!beside.next} title="Next look (n)">
          ↓ <kbd>n</kbd>
        </Button>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(360px,34%)_1fr]">
        <div className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,11fr)_minmax(0,9fr)] border-r border-rule">
          <Script
            timeline={timeline}
            file={result.file}
            look={result.look}
            current={position.step}
            problem={problems[0]}
            onStep={(index) => go(atStep(timeline, index))}
          />
          <Tabs.Root defaultValue="step" className="flex min-h-0 flex-col border-t border-rule">
            <Tabs.List className="flex shrink-0 gap-4 border-b border-rule px-3" aria-label="Details">
              {[
                ['step', 'Step'],
                [
                  'look',
                  `Look${result.notes.length > 0 ? ` · ${result.notes.length} ${result.notes.length === 1 ? 'note' : 'notes'}` : ''}`,
                ],
              ].map(([value, title]) => (
                <Tabs.Trigger
                  key={value}
                  value={value!}
                  className="h-7 border-b-2 border-transparent text-soft data-[state=active]:border-accent data-[state=active]:text-ink"
                >
                  {title}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            <Tabs.Content value="step" className="min-h-0 flex-1 overflow-y-auto">
              {step && (
                <StepCard
                  step={step}
                  problems={problems}
                  marks={timeline.marks}
                  count={timeline.steps.length}
                  shownFile={timeline.source ? result.file : null}
                />
              )}
            </Tabs.Content>
            <Tabs.Content value="look" className="min-h-0 flex-1 overflow-y-auto">
              <LookCard result={result} />
            </Tabs.Content>
          </Tabs.Root>
        </div>
        <div className="flex min-h-0 min-w-0 flex-col bg-well">
          <div className="flex h-9 shrink-0 items-center gap-2 px-3">
            <ToggleGroup.Root
              type="single"
              aria-label="Before or after the step"
              value={position.side}
              onValueChange={(side: string) => side && go(atStep(timeline, position.step, side as Position['side']))}
              className="flex shrink-0 overflow-hidden rounded-md border border-rule bg-sheet"
            >
              {(['before', 'after'] as const).map((side) => (
                <ToggleGroup.Item
                  key={side}
                  value={side}
                  className="h-6 px-2.5 text-soft not-first:border-l not-first:border-rule data-[state=on]:bg-wash data-[state=on]:font-medium data-[state=on]:text-ink"
                >
                  {side}
                </ToggleGroup.Item>
              ))}
            </ToggleGroup.Root>
            <kbd>b</kbd>
            <span className="truncate text-soft">{step?.title}</span>
            <span className="flex-1" />
            {capture && (
              <Button onClick={() => setSeen(seen === 'moment' ? 'screenshot' : 'moment')}>
                {seen === 'moment' ? 'Show the screenshot' : 'Show the moment'}
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
              <Blank title="Nothing to show">The look came to no page: it ended before anything was loaded.</Blank>
            ) : (
              <Stage
                project={project}
                timeline={timeline}
                environment={result.environment}
                moment={position.moment}
                outline={step?.target?.node ?? null}
                pointer={position.side === 'after' && step?.kind === 'action' ? (step.pointer ?? null) : null}
                dark={dark}
              />
            )}
          </div>
        </div>
      </div>
      <Lanes
        timeline={timeline}
        position={position}
        onScrub={(time) => go(atTime(timeline, time))}
        onStep={(index) => go(atStep(timeline, index))}
      />
      <p className="flex h-6 shrink-0 items-center gap-3 border-t border-rule px-4 text-[11px] text-soft">
        <span>
          <kbd>←</kbd> <kbd>→</kbd> step
        </span>
        <span>
          <kbd>Shift</kbd> with them: moment
        </span>
        <span>
          <kbd>b</kbd> before, after
        </span>
        {failed && (
          <span>
            <kbd>f</kbd> where it went wrong
          </span>
        )}
        <span>
          <kbd>r</kbd> run again
        </span>
        <span className="ml-auto">Long waits are drawn shortened</span>
      </p>
    </div>
  );
}
