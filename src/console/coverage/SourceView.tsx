/** One source: which of its lines are run, by which looks, and what of it no look reaches. */
import { useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
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
const lineHeight = 18;

/** So many letters wide is what stands before a line, and after it; and a tab, at most. */
const besides = 20;
const tab = 8;

/** How many letters wide the longest line is: how far one can go sideways must not depend on which are drawn. */
const longestOf = (text: string): number =>
  text.split('\n').reduce((most, { length }) => Math.max(most, length), 0) + (text.includes('\t') ? 4 * tab : 0);

type LinesProps = { source: FileLines; chosen: number; onChoose(line: number): void };

/** The lines of the source; only those in sight are drawn. */
function Lines({ source: { path, text, lines }, chosen, onChoose }: LinesProps) {
  const area = useRef<HTMLDivElement>(null);
  const coloured = useMemo(() => colouredLines(text), [text]);
  const byLine = useMemo(() => new Map(lines.map((line) => [line.line, line])), [lines]);
  const longest = useMemo(() => longestOf(text), [text]);
  const numbers = `calc(${Math.max(3, String(coloured.length).length)}ch + 8px)`;
  const rows = useVirtualizer({
    count: coloured.length,
    getScrollElement: () => area.current,
    estimateSize: () => lineHeight,
    paddingStart: 8,
    paddingEnd: 8,
    overscan: 30,
  });
  useEffect(() => rows.scrollToIndex(chosen - 1, { align: 'center' }), [chosen, rows]);
  return (
    <div ref={area} className="overflow-auto bg-sheet font-mono text-[11.5px] leading-[18px]">
      <ol
        className="relative min-w-full"
        style={{ height: rows.getTotalSize(), width: `${besides + longest}ch` }}
        aria-label={`Source of ${path}`}
      >
        {rows.getVirtualItems().map(({ index, start }) => {
          const number = index + 1;
          const line = byLine.get(number);
          const isHere = chosen === number;
          const wash = line?.count === 0 ? 'bg-failed/10' : line && line.missing.length > 0 ? 'bg-changed/10' : '';
          return (
            <li
              key={number}
              aria-setsize={coloured.length}
              aria-posinset={number}
              className={`absolute top-0 left-0 w-full whitespace-pre ${wash}`}
              style={{ transform: `translateY(${start}px)`, height: lineHeight }}
            >
              <button
                type="button"
                tabIndex={-1}
                className={`flex w-full text-left ${isHere ? here : 'hover:bg-well'}`}
                onClick={() => onChoose(number)}
              >
                <Margin line={line} />
                <span className="shrink-0 pr-2 text-right text-soft select-none" style={{ width: numbers }}>
                  {number}
                </span>
                {/* The source is the project's own; the highlighter escapes it. */}
                {/* biome-ignore lint/security/noDangerouslySetInnerHtml: see above */}
                <code className="pr-4" dangerouslySetInnerHTML={{ __html: coloured[index] || ' ' }} />
              </button>
            </li>
          );
        })}
      </ol>
    </div>
  );
}
