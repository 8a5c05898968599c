/** Review: every capture that waits for a decision, one after the other. */
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { lookTitle } from '../../core/look/look.ts';
import type { ResultSummary } from '../../core/run/run.ts';
import { counted } from '../../core/text/counted.ts';
import { useCauses, useChanges, useResult } from '../data.ts';
import { useKeys } from '../keys.ts';
import type { Problem } from '../../core/problem/problem.ts';
import { Button } from '../parts/Button.tsx';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Causes } from './Causes.tsx';
import { causesOf, noteOf, type OwnCause } from './causes.ts';
import { Compare, modes, type Mode } from './Compare.tsx';
import { Facts } from './Facts.tsx';
import { ItemHead } from './ItemHead.tsx';
import { ItemList } from './ItemList.tsx';
import { keyOf } from './items.ts';
import { RejectDialog } from './RejectDialog.tsx';
import { type Place, useQueue } from './useQueue.ts';

export function Review() {
  const [query] = useSearchParams();
  const changes = useChanges();
  if (changes.isPending) return <Waiting what="Looking for changes…" />;
  if (changes.isError) return <Trouble error={changes.error} />;
  const result = query.get('result');
  if (result === null) return <Desk results={changes.data} first={null} />;
  const first = { result: Number(result), capture: query.get('capture') };
  // What is decided already is shown by itself.
  const isOpen = changes.data.some(({ id }) => id === first.result);
  return isOpen ? <Desk key={result} results={changes.data} first={first} /> : <OneResult first={first} />;
}

function OneResult({ first }: { first: Place }) {
  const result = useResult(first.result);
  if (result.isPending) return <Waiting what="Fetching the captures…" />;
  if (result.isError) return <Trouble error={result.error} />;
  return <Desk results={[result.data]} first={first} />;
}

/** Why a decision was not carried out. What is unsteady may be approved all the same, by somebody who means it. */
function Refused({ problem: { code, message }, onAnyway }: { problem: Problem; onAnyway: () => void }) {
  return (
    <div role="alert" className="flex items-center gap-3 border-b border-failed bg-failed/10 px-4 py-1.5 text-failed">
      <p>✗ {message}</p>
      {code === 'capture-unsteady' && (
        <>
          <p className="text-ink">
            Find out why with <code className="font-mono">sguardo steady</code>.
          </p>
          <span className="flex-1" />
          <Button onClick={onAnyway}>Approve anyway</Button>
        </>
      )}
    </div>
  );
}

function NothingLeft({ decided }: { decided: number }) {
  return (
    <Blank title={decided > 0 ? 'All decided' : 'Nothing to review'}>
      <p>
        {decided > 0 ? `You reviewed ${counted(decided, 'capture')}. ` : ''}Whatever changes in a run, or is new in it,
        appears here.
      </p>
    </Blank>
  );
}

/** Where the elements of the cause that is pointed at are, or of all. */
const outlinesOf = (causes: readonly OwnCause[], shown: string | null) => {
  const chosen = causes.find(({ cluster }) => cluster.key === shown);
  return (chosen ? [chosen] : causes).flatMap(({ capture }) => capture.outlines);
};

/** The key of the cause behind another one, round and round. */
const next = (causes: readonly OwnCause[], { cluster }: OwnCause): string =>
  causes[(causes.findIndex((one) => one.cluster.key === cluster.key) + 1) % causes.length]!.cluster.key;

function Desk({ results, first }: { results: ResultSummary[]; first: Place | null }) {
  const { items, at, choose, decide, approveCause, choosePair, decided, error } = useQueue(results, first);
  const list = useCauses();
  const [shown, setShown] = useState<string | null>(null);
  const [mode, setMode] = useState<Mode>('beside');
  const [rejecting, setRejecting] = useState(false);
  const item = items[at];
  const causes = item ? causesOf(list.data, item) : [];
  // The one that is pointed at, or the first.
  const meant = causes.find(({ cluster }) => cluster.key === shown) ?? causes[0];
  useKeys({
    ArrowDown: () => choose(at + 1),
    ArrowUp: () => choose(at - 1),
    j: () => choose(at + 1),
    k: () => choose(at - 1),
    a: () => void decide('approve'),
    x: () => item && setRejecting(true),
    c: () => meant && void approveCause(meant.cluster),
    e: () => meant && setShown(next(causes, meant)),
    ...Object.fromEntries(modes.map(({ mode: value, key }) => [key, () => setMode(value)])),
  });
  if (!item) return <NothingLeft decided={decided} />;
  const { result, capture } = item;
  return (
    <div className="grid h-full grid-cols-[260px_1fr]">
      <ItemList items={items} at={at} onChoose={choose} />
      <div className="flex min-h-0 min-w-0 flex-col">
        <ItemHead
          item={item}
          at={at}
          of={items.length}
          onApprove={() => void decide('approve')}
          onReject={() => setRejecting(true)}
        />
        {error && <Refused problem={error} onAnyway={() => void decide('approve', { unsteady: true })} />}
        <div className="flex min-h-0 flex-1">
          <div className="flex min-w-0 flex-1 flex-col">
            <Compare
              key={keyOf(item)}
              capture={capture}
              mode={mode}
              outlines={outlinesOf(causes, shown)}
              onMode={setMode}
            />
            <Facts capture={capture} />
          </div>
          {capture.state.kind === 'changed' && !list.isPending && (
            <Causes
              causes={causes}
              note={noteOf(list.data, item)}
              shown={meant?.cluster.key ?? null}
              onShow={setShown}
              onApprove={(cluster) => void approveCause(cluster)}
              onGo={(one) => choosePair(one.result, one.capture)}
            />
          )}
        </div>
      </div>
      <RejectDialog
        open={rejecting}
        title={lookTitle(result.component, result.look)}
        onClose={() => setRejecting(false)}
        onReject={(why) => void decide('reject', { why })}
      />
    </div>
  );
}
