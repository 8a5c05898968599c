/** The capture that is shown of an entry, large, and what can be decided. */
import { Link } from 'react-router';
import { lookTitle } from '../../core/look/look.ts';
import type { CaptureSummary, ResultSummary } from '../../core/run/run.ts';
import { Button } from '../parts/Button.tsx';
import { Compare, type Mode } from './Compare.tsx';
import { Conflict } from './Conflict.tsx';
import type { Entry, Shot } from '../../core/review/entries.ts';
import { site } from '../site.ts';
import { Facts } from './Facts.tsx';

type HeadProps = {
  entry: Entry;
  shot: Shot;
  result: ResultSummary | undefined;
  capture: CaptureSummary | undefined;
  /** How many captures a decision is about. */
  meant: number;
  onApprove(): void;
  onReject(): void;
};

/** Which capture it is, and the two answers to its entry. */
export function Head({ entry, shot, result, capture, meant, onApprove, onReject }: HeadProps) {
  const { shots, kind } = entry;
  return (
    <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
      <Link
        to={`/bench/${shot.result}${capture ? `?step=${capture.step}` : ''}`}
        className="truncate text-[14px] font-semibold hover:text-accent"
        title="Open on the bench"
      >
        {lookTitle(shot.component, shot.look)}
      </Link>
      <span className="max-w-40 shrink-0 truncate text-soft">
        {shot.environment}
        {shot.capture === 'end' ? '' : ` · ${shot.capture}`}
        {result?.isUnsteady ? ' · unsteady' : ''}
      </span>
      <span className="flex-1" />
      {shots.length > 1 && (
        <span className="whitespace-nowrap text-soft tabular-nums">
          {shots.indexOf(shot) + 1} of {shots.length}
        </span>
      )}
      {!site && (
        <Button tone="danger" onClick={onReject} disabled={meant === 0} shortcut="x" keyShape="max-lg:hidden">
          Reject
        </Button>
      )}
      {!site && kind !== 'failed' && (
        <Button
          tone="strong"
          onClick={onApprove}
          disabled={meant === 0}
          shortcut="a"
          keyShape="!border-paper/40 !bg-transparent !text-paper max-lg:hidden"
        >
          <span>
            Approve{meant > 1 && ` ${meant}`}
            {meant > 1 && <span className="max-lg:sr-only"> captures</span>}
          </span>
        </Button>
      )}
    </div>
  );
}

type Props = {
  entry: Entry;
  shot: Shot;
  capture: CaptureSummary;
  mode: Mode;
  onMode(mode: Mode): void;
  onTake(take: 'base' | 'ours' | 'theirs'): void;
  onApprove(): void;
};

export function Exemplar({ entry, shot, capture, mode, onMode, onTake, onApprove }: Props) {
  const { state } = capture;
  if (state.kind === 'conflict')
    return <Conflict capture={capture} sides={state.sides} onTake={onTake} onApprove={onApprove} />;
  const isCause = entry.cluster !== null && entry.kind === 'cause' && entry.cluster.kind !== 'picture';
  return (
    <>
      <Compare
        result={shot.result}
        capture={capture}
        cause={isCause ? entry.cluster!.key : null}
        mode={mode}
        outlines={shot.cause?.outlines ?? []}
        left={shot.cause?.unexplained ?? []}
        onMode={onMode}
      />
      <Facts capture={capture} />
    </>
  );
}
