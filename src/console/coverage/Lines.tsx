/** The lines of a source with how often each was run. */
import { useMemo } from 'react';
import type { FileLines, LineCoverage } from '../../core/coverage/report.ts';
import { SourceLines } from '../parts/SourceLines.tsx';

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

const washOf = (line: LineCoverage | undefined): string =>
  line?.count === 0 ? 'bg-failed/10' : line && line.missing.length > 0 ? 'bg-changed/10' : '';

type Props = { source: FileLines; chosen: number; onChoose(line: number): void };

export function Lines({ source: { path, text, lines }, chosen, onChoose }: Props) {
  const byLine = useMemo(() => new Map(lines.map((line) => [line.line, line])), [lines]);
  return (
    <SourceLines
      path={path}
      text={text}
      current={chosen}
      margin={10}
      lineOf={(number) => ({
        margin: <Margin line={byLine.get(number)} />,
        wash: washOf(byLine.get(number)),
        ring: chosen === number ? here : 'hover:bg-well',
        ink: 'text-soft',
        onChoose: () => onChoose(number),
      })}
    />
  );
}
