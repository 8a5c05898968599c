/** Review: what has changed, cause by cause, and what else waits for a decision. */
import { type RefObject, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { CauseList } from '../../core/cause/cluster.ts';
import type { Problem } from '../../core/problem/problem.ts';
import { notDeciding, useCauses, useDeciding, useProject, useResult } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { site } from '../site.ts';
import { CausePanel } from './CausePanel.tsx';
import { modes, type Mode } from './Compare.tsx';
import { takeKeys } from './Conflict.tsx';
import { type Asked, DecisionDialog } from './DecisionDialog.tsx';
import type { Entry, Shot } from '../../core/review/entries.ts';
import { EntryList } from './EntryList.tsx';
import { Exemplar, Head } from './Exemplar.tsx';
import { OneCapture } from './OneCapture.tsx';
import { Person } from './Person.tsx';
import { Shots } from './Shots.tsx';
import type { Said } from './useDecisions.ts';
import { type Place, type Review as Going, isAt, useReview } from './useReview.ts';
import { useSeen } from './useSeen.ts';
import { useTitle } from '../title.ts';

export function Review() {
  useTitle('Review');
  const [query] = useSearchParams();
  const list = useCauses();
  if (list.isPending) return <Waiting what="Finding out why captures have changed…" />;
  if (list.isError) return <Trouble error={list.error} />;
  const result = query.get('result');
  const place: Place = {
    cause: query.get('cause'),
    result: result === null ? null : Number(result),
    capture: query.get('capture'),
  };
  return (
    <>
      <h1 className="sr-only">Review</h1>
      <Desk key={query.toString()} list={list.data} place={place} />
    </>
  );
}

/** Why a decision was not carried out. What is unsteady may be approved all the same, by somebody who means it. */
function Refused({ problem, onAnyway, onDismiss }: { problem: Problem; onAnyway(): void; onDismiss(): void }) {
  const { code, message, remedy } = problem;
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-failed bg-failed/10 px-4 py-1.5">
      <p className="text-failed">✗ {message}</p>
      <p>{remedy}</p>
      <span className="flex-1" />
      {code === 'capture-unsteady' && <Button onClick={onAnyway}>Approve anyway</Button>}
      <Button onClick={onDismiss}>Close</Button>
    </div>
  );
}

/** What was done last, how far it is, and the way back. */
function LastDone({ said, onUndo }: { said: string | null; onUndo(): void }) {
  const { done, all } = useDeciding().data ?? notDeciding;
  return (
    <div className="flex h-8 shrink-0 items-center gap-2 border-t border-rule px-3" role="status">
      {all > 0 ? (
        <span className="working text-[11.5px] tabular-nums">
          Deciding… {done} of {all}
        </span>
      ) : said ? (
        <>
          <span className="truncate text-[11.5px]">{said}</span>
          <span className="flex-1" />
          <Button className="h-6! text-[11px]" onClick={onUndo} shortcut="u">
            Undo
          </Button>
        </>
      ) : (
        <Person />
      )}
    </div>
  );
}

type LeftProps = { done: number; isDeciding: boolean; said: string | null; onUndo(): void };

const NothingLeft = ({ done, isDeciding, said, onUndo }: LeftProps) => (
  <Blank title={isDeciding ? 'Deciding…' : done > 0 ? 'All decided' : 'Nothing to review'}>
    <p>
      {said ?? ''} Whatever changes in a run, or is new in it, appears here.{' '}
      {done > 0 && !isDeciding && (
        <Button onClick={onUndo} shortcut="u">
          Undo
        </Button>
      )}
    </p>
  </Blank>
);

/** What the failing looks say is the reason that is proposed: nobody has to type it. */
const reasonFor = ({ kind, title }: Entry): string => (kind === 'failed' ? `It fails: ${title}` : '');

/** The keys of the page; `meant` is how many captures a decision is about. */
function useReviewKeys(review: Going, does: ReviewActions, comment: RefObject<HTMLTextAreaElement | null>): void {
  const { shot } = review;
  useKeys({
    ArrowDown: () => review.step(1),
    ArrowUp: () => review.step(-1),
    j: () => review.step(1),
    k: () => review.step(-1),
    ArrowRight: () => review.stepShot(1),
    ArrowLeft: () => review.stepShot(-1),
    e: () => shot && review.leaveOut(shot),
    a: () => does.approve(),
    x: does.reject,
    u: () => !site && void review.undo(),
    c: () => comment.current?.focus(),
    [takeKeys.base]: () => does.take('base'),
    [takeKeys.ours]: () => does.take('ours'),
    [takeKeys.theirs]: () => does.take('theirs'),
    ...Object.fromEntries(modes.map(({ mode, key }) => [key, () => does.see(mode)])),
  });
}

type ReviewActions = {
  approve(said?: Said): void;
  reject(): void;
  take(side: 'base' | 'ours' | 'theirs'): void;
  see(mode: Mode): void;
};

/** True for a link to a capture about which nothing is left to decide. */
function isDecided({ causes, unexplained, withoutBaseline }: CauseList, place: Place): boolean {
  const all = [...causes.flatMap(({ captures }) => captures), ...unexplained, ...withoutBaseline];
  return place.result !== null && !all.some(isAt(place));
}

function Desk({ list, place }: { list: CauseList; place: Place }) {
  const review = useReview(list, place);
  const { entries, entry, shot, at, choose, isLeftOut } = review;
  const project = useProject();
  const [mode, setMode] = useState<Mode>('beside');
  const [asked, setAsked] = useState<Asked | null>(null);
  const comment = useRef<HTMLTextAreaElement>(null);
  const meant = entry?.shots.filter((one) => one.decided === null && !isLeftOut(one)).length ?? 0;
  const ask = (kind: Asked['kind']): void => {
    if (!site && entry && meant > 0) setAsked({ kind, title: entry.title, why: reasonFor(entry) });
  };
  const does: ReviewActions = {
    approve(said = {}) {
      if (site || !entry || entry.kind === 'failed') return;
      if (project.data?.reasons === 'all' && said.why === undefined) ask('approve');
      else void review.decide('approve', said);
    },
    reject: () => ask('reject'),
    take: (take) => !site && entry?.kind === 'conflict' && void review.decide('approve', { take }),
    see: setMode,
  };
  useSeen(shot);
  useReviewKeys(review, does, comment);
  if (isDecided(list, place) && review.done === 0) return <OneCapture result={place.result!} capture={place.capture} />;
  const undo = (): void => void review.undo();
  if (!entry || !shot) return <NothingLeft {...review} onUndo={undo} />;
  return (
    <div className="grid h-full grid-cols-[minmax(200px,22vw)_1fr_clamp(220px,23vw,320px)]">
      <EntryList {...review} onChoose={(one) => choose(one)} />
      <div className="flex min-h-0 min-w-0 flex-col">
        {review.error && (
          <Refused
            problem={review.error}
            onAnyway={() => does.approve({ unsteady: true })}
            onDismiss={review.dismiss}
          />
        )}
        <Shown entry={entry} shot={shot} meant={meant} mode={mode} does={does} />
        <Shots
          shots={entry.shots}
          shown={shot}
          isLeftOut={isLeftOut}
          onChoose={(one) => choose(entry, one)}
          onLeaveOut={review.leaveOut}
        />
      </div>
      <div className="flex min-h-0 flex-col border-l border-rule bg-sheet">
        <CausePanel key={entry.id} entry={entry} shot={shot} entries={entries} comment={comment} onGo={choose} />
        {!site && <LastDone said={review.said} onUndo={undo} />}
      </div>
      <DecisionDialog
        asked={asked}
        onClose={() => setAsked(null)}
        onDecide={(why, fixer) => void review.decide(asked!.kind, { why, ...(fixer && { fixer }) })}
      />
      <span className="sr-only" aria-live="polite">
        {at + 1} of {entries.length}: {entry.title}
      </span>
    </div>
  );
}

type ShownProps = { entry: Entry; shot: Shot; meant: number; mode: Mode; does: ReviewActions };

/** The shown capture, once its result is there. */
function Shown({ entry, shot, meant, mode, does }: ShownProps) {
  const result = useResult(shot.result);
  const capture = result.data?.captures.find(({ name }) => name === shot.capture);
  return (
    <>
      <Head
        entry={entry}
        shot={shot}
        result={result.data}
        capture={capture}
        meant={meant}
        onApprove={() => does.approve()}
        onReject={does.reject}
      />
      <div className="flex min-h-0 flex-1 flex-col">
        {result.isError && <Trouble error={result.error} />}
        {capture && (
          <Exemplar
            key={`${shot.result} ${shot.capture}`}
            entry={entry}
            shot={shot}
            capture={capture}
            mode={mode}
            onMode={does.see}
            onTake={does.take}
            onApprove={() => does.approve()}
          />
        )}
      </div>
    </>
  );
}
