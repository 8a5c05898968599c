/** The lines of a source, each with a margin and its number; only those in sight are drawn. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useEffect, useMemo, useRef } from 'react';
import { colouredLines } from './coloured.ts';

/** What is special about a line. */
export type SourceLine = {
  /** What stands before its number. */
  margin: ReactNode;
  /** Classes of the whole line, of the button in it, and of its number. */
  wash: string;
  ring: string;
  ink: string;
  /** What happens when it is chosen; null for a line that leads nowhere. */
  onChoose: (() => void) | null;
};

type Props = {
  path: string;
  text: string;
  /** The line that is brought into sight when it becomes another; null for none. */
  current: number | null;
  /** How many letters wide the margin is. */
  margin: number;
  lineOf(number: number): SourceLine;
};

const lineHeight = 18;

/** So many letters wide is what else stands beside a line; and a tab at most. */
const besides = 10;
const tab = ' '.repeat(8);

/** How many letters wide the longest line is: how far one can go sideways must not depend on which are drawn. */
const longestOf = (text: string): number =>
  text.split('\n').reduce((most, line) => Math.max(most, line.replaceAll('\t', tab).length), 0);

export function SourceLines({ path, text, current, margin, lineOf }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const coloured = useMemo(() => colouredLines(text), [text]);
  const width = useMemo(() => `${margin + besides + longestOf(text)}ch`, [margin, text]);
  const numbers = `calc(${Math.max(3, String(coloured.length).length)}ch + 8px)`;
  const rows = useVirtualizer({
    count: coloured.length,
    getScrollElement: () => area.current,
    estimateSize: () => lineHeight,
    paddingStart: 8,
    paddingEnd: 8,
    overscan: 30,
  });
  useEffect(() => {
    if (current !== null) rows.scrollToIndex(current - 1, { align: 'center' });
  }, [current, text, rows]);
  return (
    <div ref={area} className="h-full overflow-auto bg-sheet font-mono text-[11.5px] leading-[18px]">
      <ol
        className="relative min-w-full"
        style={{ height: rows.getTotalSize(), width }}
        aria-label={`Source of ${path}`}
      >
        {rows.getVirtualItems().map(({ index, start }) => {
          const number = index + 1;
          const line = lineOf(number);
          return (
            <li
              key={number}
              aria-setsize={coloured.length}
              aria-posinset={number}
              aria-current={number === current ? 'location' : undefined}
              className={`absolute top-0 left-0 w-full whitespace-pre ${line.wash}`}
              style={{ transform: `translateY(${start}px)`, height: lineHeight }}
            >
              <Line line={line} number={number} numbers={numbers} html={coloured[index]!} />
            </li>
          );
        })}
      </ol>
    </div>
  );
}

type LineProps = { line: SourceLine; number: number; numbers: string; html: string };

function Line({ line: { margin, ring, ink, onChoose }, number, numbers, html }: LineProps) {
  const content = (
    <>
      {margin}
      <span className={`shrink-0 pr-2 text-right select-none ${ink}`} style={{ width: numbers }}>
        {number}
      </span>
      {/* The source is the project's own; the highlighter escapes it. */}
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: see above */}
      <code className="pr-4" dangerouslySetInnerHTML={{ __html: html || ' ' }} />
    </>
  );
  if (!onChoose) return <span className="flex">{content}</span>;
  // The arrow keys lead through what can be chosen, so that Tab need not stop at every line.
  return (
    <button type="button" tabIndex={-1} className={`flex w-full text-left ${ring}`} onClick={onChoose}>
      {content}
    </button>
  );
}
