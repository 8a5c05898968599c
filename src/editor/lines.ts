/** Lines of a text, and places in it as editors count them: from 0, in UTF-16 units. */
import type { Position, Range } from 'vscode-languageserver';

export type Lines = {
  lines: string[];
  position(offset: number): Position;
  offset(position: Position): number;
  range(span: readonly [start: number, end: number]): Range;
};

export function linesOf(text: string): Lines {
  const lines = text.split('\n');
  const starts = [0];
  for (const line of lines) starts.push(starts.at(-1)! + line.length + 1);
  const position = (offset: number): Position => {
    const line = Math.max(
      0,
      starts.findLastIndex((start) => start <= offset),
    );
    return { line, character: offset - starts[line]! };
  };
  return {
    lines,
    position,
    offset: ({ line, character }) => Math.min((starts[line] ?? text.length) + character, text.length),
    range: ([start, end]) => ({ start: position(start), end: position(end) }),
  };
}
