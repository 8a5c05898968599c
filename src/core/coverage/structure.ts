/** What can be run of a source: its statements, its functions, and the ways that it can branch. */

/** Where something stands in a text: offsets in UTF-16 units, the end after its last one. */
export type Span = readonly [start: number, end: number];

/** What a function hears of an element: a click on the button of that text. */
export type Handler = { event: string; element: string; text: string | null };

/** A function by what it is called, or given to; `handler` for one that stands in the attribute of an element. */
export type FunctionPart = { name: string; at: Span; body: Span; handler: Handler | null };

/**
 * One way on. `isElse` is the way past an `if` that has none: it is taken as often as the others are not. `label` is
 * what a case is for.
 */
export type Arm = { at: Span; isElse: boolean; label?: Span };

export type Branch = { kind: 'if' | 'choice' | 'and-or' | 'switch'; at: Span; test: Span | null; arms: Arm[] };

export type Structure = {
  statements: Span[];
  functions: FunctionPart[];
  branches: Branch[];
};

/** A place whose executions are counted: the first of its spans in which there is code. */
export type Probe = readonly Span[];

/**
 * The places that are counted, in this order: statements, functions, then of each branch what comes before it and its
 * arms that stand in the text.
 */
export const probesOf = ({ statements, functions, branches }: Structure): Probe[] => [
  ...statements.map((at) => [at]),
  ...functions.map(({ at, body }) => [body, at]),
  ...branches.flatMap(({ at, arms }) => [[at], ...arms.filter(({ isElse }) => !isElse).map((arm) => [arm.at])]),
];

/** How often everything of a structure was run. */
export type Counts = { statements: number[]; functions: number[]; branches: number[][] };

/** Counts by probe, in the order of `probesOf`, as counts of a structure. */
export function countsOf({ statements, functions, branches }: Structure, hits: readonly number[]): Counts {
  let at = statements.length + functions.length;
  return {
    statements: hits.slice(0, statements.length),
    functions: hits.slice(statements.length, at),
    branches: branches.map(({ arms }) => {
      const before = hits[at++] ?? 0;
      const own = arms.map(({ isElse }) => (isElse ? null : (hits[at++] ?? 0)));
      const taken = own.reduce<number>((sum, n) => sum + (n ?? 0), 0);
      return own.map((n) => n ?? Math.max(0, before - taken));
    }),
  };
}

/** Offsets at which the lines of a text begin. */
export function lineStartsOf(text: string): number[] {
  const starts = [0];
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) starts.push(at + 1);
  return starts;
}

/** Line (from 1) and column (from 0) of an offset. */
export function positionAt(starts: readonly number[], offset: number): { line: number; column: number } {
  let low = 0;
  let high = starts.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (starts[middle]! <= offset) low = middle;
    else high = middle - 1;
  }
  return { line: low + 1, column: offset - starts[low]! };
}
