/** The history of a look: every baseline and every decision, any two of whose pictures can be compared. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useAddress } from '../useAddress.ts';
import type { HistoryEntry, PictureComparison } from '../../core/api/api.ts';
import { lookTitle } from '../../core/look/look.ts';
import type { CaptureSummary } from '../../core/run/run.ts';
import { service } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Compare, type Mode, modes } from '../review/Compare.tsx';
import { Facts } from '../review/Facts.tsx';
import { Decisions } from './Decisions.tsx';
import { useTitle } from '../title.ts';

type Look = { component: string; look: string; environment: string };

export function History() {
  const [query] = useSearchParams();
  const named = (name: string): string => query.get(name) ?? '';
  const look = { component: named('component'), look: named('look'), environment: named('environment') };
  useTitle(look.look ? `History of ${lookTitle(look.component, look.look)}` : 'History');
  const isNamed = Object.values(look).every((value) => value !== '');
  const history = useQuery({
    enabled: isNamed,
    queryKey: ['history', look.component, look.look, look.environment],
    queryFn: () => service.history(look),
  });
  if (!isNamed) return <Blank title="No look is chosen">Open a look on the bench, and its history from there.</Blank>;
  if (history.isPending) return <Waiting what="Fetching the history…" />;
  if (history.isError) return <Trouble error={history.error} />;
  const { decisions, results } = history.data;
  if (decisions.length === 0)
    return <Blank title="Nothing was decided yet">{`Nobody has approved or rejected ${look.look}.`}</Blank>;
  return <Desk look={look} decisions={decisions} newest={results[0]?.id ?? null} />;
}

/** Which two are compared: those of the address, or the baseline now and the one before it. */
function useTwo(decisions: readonly HistoryEntry[]) {
  const [query, set] = useAddress();
  const pictures = decisions.filter(({ kind }) => kind !== 'undo');
  const find = (name: string): HistoryEntry | undefined => pictures.find(({ id }) => String(id) === query.get(name));
  const now = find('now') ?? pictures.find(({ isBaseline }) => isBaseline) ?? pictures[0]!;
  const others = pictures.filter(
    ({ id, capture, hash }) => id < now.id && capture === now.capture && hash !== now.hash,
  );
  const before = find('before') ?? others[0] ?? now;
  const choose = (name: 'before' | 'now', id: number): void =>
    set({ before: String(name === 'before' ? id : before.id), now: String(name === 'now' ? id : now.id) });
  return { before, now, choose };
}

function Desk({ look, decisions, newest }: { look: Look; decisions: readonly HistoryEntry[]; newest: number | null }) {
  const { before, now, choose } = useTwo(decisions);
  const [mode, setMode] = useState<Mode>('beside');
  const move = (name: 'before' | 'now', from: HistoryEntry, by: number): void => {
    const all = decisions.filter(({ kind }) => kind !== 'undo');
    const next = all[all.findIndex(({ id }) => id === from.id) + by];
    if (next) choose(name, next.id);
  };
  useKeys({
    ArrowDown: () => move('now', now, 1),
    ArrowUp: () => move('now', now, -1),
    j: () => move('before', before, 1),
    k: () => move('before', before, -1),
    ...Object.fromEntries(modes.map(({ mode: value, key }) => [key, () => setMode(value)])),
  });
  const compared = useQuery({
    queryKey: ['comparison', before.hash, now.hash],
    queryFn: () => service.comparison(before.hash, now.hash),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <div className="grid h-full grid-cols-[minmax(260px,26vw)_1fr]">
      <Decisions decisions={decisions} before={before.id} now={now.id} onChoose={choose} />
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
          <h1 className="truncate text-[14px] font-semibold">{lookTitle(look.component, look.look)}</h1>
          <span className="truncate text-soft">
            {look.environment}
            {now.capture === 'end' ? '' : ` · ${now.capture}`}
          </span>
          <span className="flex-1" />
          {newest !== null && (
            <Link to={`/bench/${newest}`} className="whitespace-nowrap text-accent underline">
              Open on the bench
            </Link>
          )}
        </div>
        {compared.isPending && <Waiting what="Comparing…" />}
        {compared.isError && <Trouble error={compared.error} />}
        {compared.data && <Compared before={before} now={now} compared={compared.data} mode={mode} onMode={setMode} />}
      </div>
    </div>
  );
}

type ComparedProps = {
  before: HistoryEntry;
  now: HistoryEntry;
  compared: PictureComparison;
  mode: Mode;
  onMode(mode: Mode): void;
};

/** Two pictures of the history, seen as a capture and its baseline are. */
function Compared({ before, now, compared: { picture, difference }, mode, onMode }: ComparedProps) {
  const isSame = before.hash === now.hash;
  const [width, height] = picture.to;
  const capture: CaptureSummary = {
    name: now.capture,
    hash: now.hash,
    width,
    height,
    step: 0,
    moment: 0,
    canonical: '',
    isVouched: false,
    allowances: [],
    state: isSame ? { kind: 'same' } : { kind: 'changed', picture, markup: [], otherFingerprint: false },
    baseline: before.hash,
    difference,
    decision: null,
  };
  return (
    <>
      <Compare
        key={`${before.id} ${now.id}`}
        result={null}
        capture={capture}
        cause={null}
        mode={mode}
        outlines={[]}
        left={[]}
        onMode={onMode}
      />
      {isSame ? (
        <p className="px-4 pb-1.5 text-[11.5px] text-soft">
          {before.id === now.id ? 'Both are the same decision.' : 'Both show the same.'}
        </p>
      ) : (
        <Facts capture={capture} />
      )}
    </>
  );
}
