/** A capture that is decided already, shown by itself for whoever was sent its link. */
import { Link } from 'react-router';
import { lookTitle } from '../../core/look/look.ts';
import { useResult } from '../data.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { day } from '../parts/day.ts';
import { Compare, type Mode, modes } from './Compare.tsx';
import { Facts } from './Facts.tsx';
import { useState } from 'react';
import { useKeys } from '../keys.ts';

export function OneCapture({ result: id, capture: name }: { result: number; capture: string | null }) {
  const result = useResult(id);
  const [mode, setMode] = useState<Mode>('beside');
  useKeys(Object.fromEntries(modes.map(({ mode: value, key }) => [key, () => setMode(value)])));
  if (result.isPending) return <Waiting what="Fetching the capture…" />;
  if (result.isError) return <Trouble error={result.error} />;
  const { component, look, environment, captures } = result.data;
  const capture = captures.find((one) => one.name === name) ?? captures.at(-1);
  if (!capture) return <Blank title="No capture">{lookTitle(component, look)} has come to no capture.</Blank>;
  const { decision } = capture;
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-10 shrink-0 items-center gap-3 border-b border-rule px-4">
        <Link to={`/bench/${id}?step=${capture.step}`} className="text-[14px] font-semibold hover:text-accent">
          {lookTitle(component, look)}
        </Link>
        <span className="text-soft">
          {environment} · {capture.name}
        </span>
        <span className="flex-1" />
        <span className="truncate text-soft">
          {decision
            ? `${decision.kind === 'reject' ? '✗ Rejected' : '✓ Approved'} by ${decision.who}, ${day(decision.at)}` +
              (decision.why ? `: “${decision.why}”` : '')
            : 'Nothing to decide'}
        </span>
        <Link to="/review" className="whitespace-nowrap text-accent underline">
          What is open
        </Link>
      </div>
      <Compare result={id} capture={capture} cause={null} mode={mode} outlines={[]} left={[]} onMode={setMode} />
      <Facts capture={capture} />
    </div>
  );
}
