/** One source: which of its lines are run, by which looks, and what of it no look reaches. */
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { useAddress } from '../useAddress.ts';
import { coverageKinds, type FileLines, type LineCoverage, percentText } from '../../core/coverage/report.ts';
import { service } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Trouble, Waiting } from '../parts/Blank.tsx';
import { colouredLines } from './coloured.ts';
import { LineFacts } from './LineFacts.tsx';

export function SourceView({ path, run }: { path: string; run: number | undefined }) {
  const source = useQuery({
    queryKey: ['coverage', run ?? null, path],
    queryFn: () => service.coverageOf(path, run),
  });
  if (source.isPending) return <Waiting what={`Reading ${path}…`} />;
  if (source.isError) return <Trouble error={source.error} />;
  return <Source source={source.data} />;
}

/** A line that wants a look: it is not run, or not all of it. */
const isOpen = ({ count, missing }: LineCoverage): boolean => count === 0 || missing.length > 0;

function Source({ source }: { source: FileLines }) {
  const [query, set] = useAddress();
  const open = source.lines.filter(isOpen);
  const wanted = Number(query.get('line'));
  const chosen = wanted || (open[0]?.line ?? 1);
  const choose = (line: number): void => set({ line: String(line) });
  const next = (): void => {
    const found = open.find(({ line }) => line > chosen) ?? open[0];
    if (found) choose(found.line);
  };
  const before = (): void => {
    const found = open.findLast(({ line }) => line < chosen) ?? open.at(-1);
    if (found) choose(found.line);
  };
  useKeys({ n: next, p: before });
  return (
    <div className="flex min-h-0 min-w-0 flex-col">
      <div className="flex h-10 shrink-0 items-center gap-4 border-b border-rule px-4">
        <h2 className="truncate font-semibold">{source.path}</h2>
        {coverageKinds.map((kind) => (
          <span key={kind} className="whitespace-nowrap text-soft tabular-nums">
            {percentText(source.parts[kind])} {kind}
          </span>
        ))}
        <span className="flex-1" />
        {open.length > 0 && (
          <span className="whitespace-nowrap text-soft">
            <kbd>n</kbd> <kbd>p</kbd> next, previous gap
          </span>
        )}
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[1fr_minmax(240px,22vw)]">
        <Lines source={source} chosen={chosen} onChoose={choose} />
        <LineFacts source={source} line={chosen} onLine={choose} />
      </div>
    </div>
  );
}

/** What the margin says of a line: how often it was run; nothing where there is nothing to run. */
function Margin({ line }: { line: LineCoverage | undefined }) {
  const tone = !line ? '' : line.count === 0 ? 'text-failed' : line.missing.length > 0 ? 'text-changed' : 'text-passed';
  const mark = !line ? '' : line.count === 0 ? '✗' : line.missing.length > 0 ? '◐' : '·';
  return (
    <>
      <span className={`w-5 shrink-0 pl-1.5 text-center ${tone}`} aria-hidden="true">
        {mark}
      </span>
      <span className="w-14 shrink-0 pr-2 text-right text-soft tabular-nums select-none">
        {line && (line.count > 0 ? `${line.count}×` : 'never')}
      </span>
    </>
  );
}

const here = 'outline -outline-offset-1 outline-accent';

function Lines({ source, chosen, onChoose }: { source: FileLines; chosen: number; onChoose(line: number): void }) {
  const area = useRef<HTMLDivElement>(null);
  const coloured = useMemo(() => colouredLines(source.text), [source.text]);
  const byLine = useMemo(() => new Map(source.lines.map((line) => [line.line, line])), [source.lines]);
  useEffect(() => {
    area.current?.querySelector('[data-current]')?.scrollIntoView({ block: 'center' });
  }, [chosen]);
  return (
    <div ref={area} className="overflow-auto bg-sheet py-2 font-mono text-[11.5px] leading-[18px]">
      <ol className="w-max min-w-full" aria-label={`Source of ${source.path}`}>
        {coloured.map((html, i) => {
          const line = byLine.get(i + 1);
          const isHere = chosen === i + 1;
          const wash = line?.count === 0 ? 'bg-failed/10' : line && line.missing.length > 0 ? 'bg-changed/10' : '';
          return (
            <li key={i} data-current={isHere ? '' : undefined} className={`whitespace-pre ${wash}`}>
              <button
                type="button"
                tabIndex={-1}
                className={`flex w-full text-left ${isHere ? here : 'hover:bg-well'}`}
                onClick={() => onChoose(i + 1)}
              >
                <Margin line={line} />
                <span className="w-8 shrink-0 pr-2 text-right text-soft select-none">{i + 1}</span>
                {/* The source is the project's own; the highlighter escapes it. */}
                {/* biome-ignore lint/security/noDangerouslySetInnerHtml: see above */}
                <code className="pr-4" dangerouslySetInnerHTML={{ __html: html || ' ' }} />
              </button>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
