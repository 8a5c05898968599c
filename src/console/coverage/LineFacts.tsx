/** Beside a source: which looks run the chosen line, and what of the source no look reaches. */
import { useMemo } from 'react';
import { Link } from 'react-router';
import type { FileLines, LineCoverage, Unreached } from '../../core/coverage/report.ts';
import { lookKey, lookTitle } from '../../core/look/look.ts';
import { counted } from '../../core/text/counted.ts';
import { benchPath } from '../bench/useDesk.ts';
import { useBoard } from '../data.ts';
import { CopyButton } from '../parts/CopyButton.tsx';
import { usePortion } from '../parts/usePortion.tsx';

type Props = { source: FileLines; line: number; onLine(line: number): void };

export function LineFacts({ source, line, onLine }: Props) {
  const about = source.lines.find((one) => one.line === line);
  const { shown, more } = usePortion(source.unreached);
  return (
    <div className="min-h-0 overflow-y-auto border-l border-rule p-4">
      <h3 className="mb-1 font-semibold">Line {line}</h3>
      {about ? (
        <Runs key={line} source={source} about={about} />
      ) : (
        <p className="text-soft">There is nothing to run on it.</p>
      )}
      <h3 className="mt-5 mb-1 font-semibold">
        {source.unreached.length === 0 ? 'Every branch is reached' : 'No look reaches'}
      </h3>
      <ul className="flex flex-col gap-2">
        {shown.map((one) => (
          <Gap key={`${one.line} ${one.what}`} gap={one} onLine={onLine} />
        ))}
      </ul>
      {more}
    </div>
  );
}

function Runs({ source, about }: { source: FileLines; about: LineCoverage }) {
  const { data: board } = useBoard();
  const looks = about.looks.map((index) => source.looks[index]!);
  const { shown, more } = usePortion(looks);
  const onBoard = useMemo(() => new Map(board?.map((one) => [lookKey(one.component, one.look), one])), [board]);
  const linkOf = (component: string, look: string): string | null => {
    const variant = onBoard.get(lookKey(component, look))?.variants[0];
    return variant ? benchPath(variant) : null;
  };
  return (
    <>
      {about.count === 0 && <p className="text-failed">✗ No look runs it.</p>}
      {about.missing.map((what) => (
        <p key={what} className="text-changed">
          ◐ {what}
        </p>
      ))}
      {about.isLoading && <p className="text-soft">It runs when the file is loaded, before any look.</p>}
      {looks.length > 0 && <p className="mb-1 text-soft">{counted(looks.length, 'look runs', 'looks run')} it:</p>}
      <ul>
        {shown.map(({ component, look }) => {
          const to = linkOf(component, look);
          const title = lookTitle(component, look);
          return (
            <li key={lookKey(component, look)} className="truncate leading-6" title={title}>
              {to ? (
                <Link to={to} className="text-accent hover:underline">
                  {title}
                </Link>
              ) : (
                title
              )}
            </li>
          );
        })}
      </ul>
      {more}
    </>
  );
}

/** What no look reaches; where a look can be drafted that would, it is there to be copied. */
function Gap({ gap, onLine }: { gap: Unreached; onLine(line: number): void }) {
  const { what, line, draft } = gap;
  return (
    <li>
      {line === null ? (
        <span>{what}</span>
      ) : (
        <button type="button" className="text-left text-accent hover:underline" onClick={() => onLine(line)}>
          {what} <span className="text-soft">line {line}</span>
        </button>
      )}
      {draft && (
        <div className="mt-1 rounded border border-rule bg-well">
          <div className="flex items-center justify-between px-2 pt-1 text-soft">
            <span>A look that would</span>
            <CopyButton text={draft} what="look" />
          </div>
          <pre className="overflow-x-auto px-2 pb-1.5 font-mono text-[11px] leading-[16px]">{draft}</pre>
        </div>
      )}
    </li>
  );
}
