/** The lines of a source with how often each was run; only those in sight are drawn. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef } from 'react';
import type { FileLines, LineCoverage } from '../../core/coverage/report.ts';
import { colouredLines } from './coloured.ts';

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

/** So many letters wide is what stands before a line, and after it; and a tab at most. */
const besides = 20;
const tab = ' '.repeat(8);

/** How many letters wide the longest line is: how far one can go sideways must not depend on which are drawn. */
const longestOf = (text: string): number =>
  text.split('\n').reduce((most, line) => Math.max(most, line.replaceAll('\t', tab).length), 0);

type Props = { source: FileLines; chosen: number; onChoose(line: number): void };

export function Lines({ source: { path, text, lines }, chosen, onChoose }: Props) {
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
