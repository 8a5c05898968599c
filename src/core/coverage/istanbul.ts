/** Coverage as the tools of Istanbul read it: https://github.com/istanbuljs/istanbuljs, coverage.json. */
import { type Counts, lineStartsOf, positionAt, type Span, type Structure } from './structure.ts';

type Position = { line: number; column: number };
type Range = { start: Position; end: Position };

/** Istanbul's description of one file; keys are numbers as texts. */
export type IstanbulFile = {
  path: string;
  statementMap: Record<string, Range>;
  fnMap: Record<string, { name: string; decl: Range; loc: Range; line: number }>;
  branchMap: Record<string, { loc: Range; type: string; locations: Range[]; line: number }>;
  s: Record<string, number>;
  f: Record<string, number>;
  b: Record<string, number[]>;
};

const kinds = { if: 'if', choice: 'cond-expr', 'and-or': 'binary-expr', switch: 'switch' } as const;

const numbered = <T, U>(list: readonly T[], value: (one: T, index: number) => U): Record<string, U> =>
  Object.fromEntries(list.map((one, index) => [String(index), value(one, index)]));

export function coverageMapOf(path: string, text: string, structure: Structure, counts: Counts): IstanbulFile {
  const starts = lineStartsOf(text);
  const rangeOf = ([start, end]: Span): Range => ({ start: positionAt(starts, start), end: positionAt(starts, end) });
  const lineOf = ([start]: Span): number => positionAt(starts, start).line;
  return {
    path,
    statementMap: numbered(structure.statements, rangeOf),
    fnMap: numbered(structure.functions, ({ name, at, body }) => ({
      name,
      decl: rangeOf([at[0], body[0]]),
      loc: rangeOf(at),
      line: lineOf(at),
    })),
    branchMap: numbered(structure.branches, ({ kind, at, arms }) => ({
      loc: rangeOf(at),
      type: kinds[kind],
      locations: arms.map((arm) => rangeOf(arm.at)),
      line: lineOf(at),
    })),
    s: numbered(counts.statements, (count) => count),
    f: numbered(counts.functions, (count) => count),
    b: numbered(counts.branches, (count) => [...count]),
  };
}
