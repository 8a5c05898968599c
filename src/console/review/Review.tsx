/** Review: every capture that waits for a decision, one after the other. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { lookTitle } from '../../core/look/look.ts';
import { type CaptureSummary, isUndecided, type ResultSummary } from '../../core/run/run.ts';
import { boardOrder } from '../board/rows.ts';
import { service, useChanges, useResult } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { Verdict, VerdictShape } from '../parts/Verdict.tsx';
import { Compare, modes, type Mode } from './Compare.tsx';
import { Facts } from './Facts.tsx';
import { RejectDialog } from './RejectDialog.tsx';

export type Item = { result: ResultSummary; capture: CaptureSummary };

const keyOf = ({ result, capture }: Item): string => `${result.id} ${capture.name}`;

/** Changes first, then what is new; each in the order of the board. */
function itemsOf(results: readonly ResultSummary[]): Item[] {
  const all = [...results]
    .sort(boardOrder)
    .flatMap((result) => result.captures.filter(isUndecided).map((capture) => ({ result, capture })));
  return [
    ...all.filter(({ capture }) => capture.state.kind !== 'new'),
    ...all.filter(({ capture }) => capture.state.kind === 'new'),
  ];
}

export function Review() {
  const [query] = useSearchParams();
  const only = query.get('result');
  return only === null ? <AllChanges /> : <OneResult id={Number(only)} />;
}

function AllChanges() {
  const changes = useChanges();
  if (changes.isPending) return <Waiting what="Looking for changes…" />;
  if (changes.isError) return <Trouble error={changes.error} />;
  return <Queue results={changes.data} />;
}

function OneResult({ id }: { id: number }) {
  const result = useResult(id);
  if (result.isPending) return <Waiting what="Fetching the captures…" />;
  if (result.isError) return <Trouble error={result.error} />;
  return <Queue results={[result.data]} />;
}

function Queue({ results }: { results: ResultSummary[] }) {
  const items = useMemo(() => itemsOf(results), [results]);
  const [chosen, setChosen] = useState<string | null>(null);
  const at = Math.max(
    0,
    items.findIndex((item) => keyOf(item) === chosen),
  );
  const item = items[at];
  const [mode, setMode] = useState<Mode>('beside');
  const [rejecting, setRejecting] = useState(false);
  const [error, setError] = useState<string | null>(null);
  const [decided, setDecided] = useState(0);
  const list = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: items.length,
    getScrollElement: () => list.current,
    estimateSize: () => 48,
    overscan: 6,
  });
  useEffect(() => virtual.scrollToIndex(at), [virtual, at]);

  const choose = (index: number): void => {
    const next = items[Math.max(0, Math.min(items.length - 1, index))];
    if (next) setChosen(keyOf(next));
  };
  const decide = async (kind: 'approve' | 'reject', why?: string): Promise<void> => {
    if (!item) return;
    const next = items[at + 1] ?? items[at - 1];
    try {
      await service.decide({ kind, captures: [{ result: item.result.id, capture: item.capture.name }], why });
      setError(null);
      setDecided((n) => n + 1);
      if (next) setChosen(keyOf(next));
    } catch (wrong) {
      setError(wrong instanceof Error ? wrong.message : String(wrong));
    }
  };
  useKeys({
    ArrowDown: () => choose(at + 1),
    ArrowUp: () => choose(at - 1),
    j: () => choose(at + 1),
    k: () => choose(at - 1),
    a: () => void decide('approve'),
    x: () => item && setRejecting(true),
    ...Object.fromEntries(modes.map(({ mode: value, key }) => [key, () => setMode(value)])),
  });

  if (!item) {
    return (
      <Blank title={decided > 0 ? 'All decided' : 'Nothing to review'}>
        <p>
          {decided > 0 ? `You reviewed ${decided} ${decided === 1 ? 'capture' : 'captures'}. ` : ''}Whatever changes in
          a run, or is new in it, appears here.
        </p>
      </Blank>
    );
  }
  const { result, capture } = item;
  return (
    <div className="grid h-full grid-cols-[260px_1fr]">
      <div
        ref={list}
        className="min-h-0 overflow-y-auto border-r border-rule bg-sheet"
        role="listbox"
        aria-label="Captures to review"
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((row) => {
            const one = items[row.index]!;
            const kind = one.capture.state.kind === 'new' ? 'new' : 'changed';
            return (
              <button
                key={row.key}
                type="button"
                role="option"
                aria-selected={row.index === at}
                onClick={() => choose(row.index)}
                className={`absolute flex h-12 w-full items-center gap-2.5 border-b border-rule px-3 text-left ${row.index === at ? 'bg-wash' : 'hover:bg-well'}`}
                style={{ transform: `translateY(${row.start}px)` }}
              >
                <VerdictShape verdict={kind} />
                <span className="min-w-0">
                  <span className="block truncate font-medium">{lookTitle(one.result.component, one.result.look)}</span>
                  <span className="block truncate text-[11px] text-soft">
                    {kind} · {one.result.environment}
                    {one.capture.name === 'end' ? '' : ` · ${one.capture.name}`}
                  </span>
                </span>
              </button>
            );
          })}
        </div>
      </div>
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
          <Link
            to={`/bench/${result.id}?step=${capture.step}`}
            className="truncate text-[14px] font-semibold hover:text-accent"
            title="Open on the bench"
          >
            {lookTitle(result.component, result.look)}
          </Link>
          <Verdict verdict={capture.state.kind === 'new' ? 'new' : 'changed'} />
          <span className="truncate text-soft">
            {result.environment} · {capture.name}
          </span>
          <span className="flex-1" />
          <span className="text-soft tabular-nums">
            {at + 1} of {items.length}
          </span>
          <Button tone="danger" onClick={() => setRejecting(true)}>
            Reject <kbd>x</kbd>
          </Button>
          <Button tone="strong" onClick={() => void decide('approve')}>
            Approve <kbd className="!border-paper/40 !bg-transparent !text-paper">a</kbd>
          </Button>
        </div>
        {error && (
          <p role="alert" className="border-b border-failed bg-failed/10 px-4 py-1.5 text-failed">
            ✗ {error}
          </p>
        )}
        <Compare key={keyOf(item)} capture={capture} mode={mode} onMode={setMode} />
        <Facts capture={capture} />
      </div>
      <RejectDialog
        open={rejecting}
        title={lookTitle(result.component, result.look)}
        onClose={() => setRejecting(false)}
        onReject={(why) => void decide('reject', why)}
      />
    </div>
  );
}
