/** Lines that were tried on a live look, or done to it by hand, with what each came to and what it changed. */
import { useEffect, useRef } from 'react';
import { keptLines } from '../../core/sitting/lines.ts';
import type { TriedLine } from '../../core/sitting/sitting.ts';
import { Button } from '../parts/Button.tsx';
import { CopyButton } from '../parts/CopyButton.tsx';
import { KeepLines } from './KeepLines.tsx';
import { Prompt } from './Prompt.tsx';
import type { Sitting } from './useSitting.ts';

const chip = [
  'rounded border border-dashed border-rule px-1 text-left font-mono text-[11px] text-soft',
  'hover:border-accent hover:text-ink',
].join(' ');

function Line({ line, sitting }: { line: TriedLine; sitting: Sitting }) {
  const { text, value, problem, byHand, offers = [] } = line;
  const taken = new Set(sitting.state.lines.map((one) => one.text));
  const offered = offers.filter((offer) => !taken.has(offer));
  return (
    <li className="px-2 py-0.5">
      <div className="flex gap-1.5">
        <span className={`w-3 shrink-0 text-center ${problem ? 'text-failed' : 'text-passed'}`}>
          {problem ? '✗' : byHand === undefined ? '✓' : '☞'}
        </span>
        <code className="min-w-0 flex-1 font-mono text-[11.5px] break-words whitespace-pre-wrap">{text}</code>
      </div>
      {value !== null && <p className="pl-5 font-mono text-[11.5px] break-words text-soft">{value}</p>}
      {problem && (
        <div className="pl-5 text-[11.5px]" role="alert">
          <p className="text-failed">{problem.message}</p>
          {problem.found?.map((found) => (
            <p key={found} className="font-mono text-soft">
              {found}
            </p>
          ))}
        </div>
      )}
      {offered.length > 0 && (
        <ul aria-label="Checks of what changed" className="flex flex-col items-start gap-0.5 py-0.5 pl-5">
          {offered.map((offer) => (
            <li key={offer}>
              <button
                type="button"
                title="Check it, and keep the check"
                onClick={() => void sitting.tryLine(offer)}
                className={chip}
              >
                + {offer}
              </button>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

export function Lines({ sitting }: { sitting: Sitting }) {
  const { lines, phase, stop, isRecording } = sitting.state;
  const area = useRef<HTMLOListElement>(null);
  const isReady = phase === 'stopped';
  useEffect(() => {
    area.current?.lastElementChild?.scrollIntoView({ block: 'nearest' });
  }, [lines]);
  return (
    <section aria-label="Lines" className="flex min-h-0 flex-col border-t border-rule">
      <div className="flex h-9 shrink-0 items-center gap-1.5 px-2">
        <h2 className="font-semibold">Lines</h2>
        <Button
          disabled={!isReady}
          aria-pressed={isRecording}
          onClick={() => sitting.setRecording(!isRecording)}
          title="What you do to the page becomes lines (w)"
          shortcut="w"
          className="aria-pressed:border-failed aria-pressed:text-failed"
        >
          {isRecording ? '● Writing down' : 'Write down'}
        </Button>
        <span className="flex-1" />
        {lines.length > 0 && <CopyButton text={keptLines(lines).join('\n')} what="" />}
        {lines.length > 0 && stop && (
          <Button onClick={() => sitting.restart(stop.number)} title="Run it again up to here, without these lines">
            Drop
          </Button>
        )}
        <KeepLines sitting={sitting} />
      </div>
      {lines.length === 0 ? (
        <p className="flex-1 px-2 pb-2 text-soft">
          Try a line where the script stands, or use the page and have that written down.
        </p>
      ) : (
        <ol ref={area} className="min-h-0 flex-1 overflow-y-auto pb-1">
          {lines.map((line, index) => (
            <Line key={String(index)} line={line} sitting={sitting} />
          ))}
        </ol>
      )}
      <Prompt sitting={sitting} isReady={isReady} />
    </section>
  );
}
