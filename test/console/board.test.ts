/** The pure parts of the board: its list as it is sent, patched and put into rows. */
import { describe, expect, it } from 'vitest';
import { foldersOf, groupKeys, type Row, rowsOf } from '../../src/console/board/layout.ts';
import {
  type BoardEntry,
  boardOf,
  comparePaths,
  packBoard,
  unpackBoard,
  withResults,
} from '../../src/core/run/board.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import type { Verdict } from '../../src/core/run/verdict.ts';

let ids = 100;

const entry = (
  component: string,
  look: string,
  order: number,
  environment = 'day',
  verdict: Verdict = 'passed',
): BoardEntry => ({
  component,
  look,
  order,
  skip: null,
  environment,
  verdict,
  file: `${component}.look.tsx`,
  id: ids++,
  picture: '0123456789abcdef',
  captures: 1,
  undecided: verdict === 'new' ? 1 : 0,
  decision: null,
});

const result = (component: string, look: string, order: number, environment: string, id: number): ResultSummary =>
  ({
    ...{ component, look, order, environment, id, file: `${component}.look.tsx`, verdict: 'failed' },
    captures: [{ hash: 'f'.repeat(64), state: { kind: 'new' }, decision: null }],
  }) as unknown as ResultSummary;

/** Rows as text: headings with how many looks pass, and tiles. */
const told = (rows: readonly Row[]): string[] =>
  rows.map((row) => {
    if (row.kind === 'tiles') return row.looks.map(({ look, variants }) => `${look}:${variants.length}`).join(' ');
    return `${'  '.repeat(row.depth)}${row.kind} ${row.name} ${row.tally.passed}${row.isFolded ? ' folded' : ''}`;
  });

const none: ReadonlySet<string> = new Set();

describe('paths', () => {
  it('stand as a person counts, the second before the tenth, and what lies deeper after what does not', () => {
    const sorted = ['b/x', 'pier10', 'b-c/x', 'pier2', 'b/c/x', 'b/d', 'Pier3'].sort(comparePaths);
    expect(sorted).toEqual(['pier2', 'Pier3', 'pier10', 'b/d', 'b/x', 'b/c/x', 'b-c/x']);
  });
});

describe("the board's list", () => {
  const looks = boardOf([
    entry('src/b', 'two', 1),
    entry('src/b', 'one', 0, 'night', 'changed'),
    entry('src/a', 'x', 0, 'day', 'new'),
    entry('src/b', 'one', 0, 'day'),
  ]);

  it('has each look once, with its environments, in the order of the look files', () => {
    expect(looks.map(({ look, variants }) => [look, variants.map(({ environment }) => environment)])).toEqual([
      ['x', ['day']],
      ['one', ['day', 'night']],
      ['two', ['day']],
    ]);
  });

  it('is the same after it was sent', () => {
    const none = {
      ...entry('src/c', 'bare', 0, 'day', 'broken'),
      picture: null,
      captures: 0,
      decision: { kind: 'reject' as const, who: 'Ada', why: 'too dark', fixer: null },
    };
    const all = [...looks, ...boardOf([none, { ...entry('src/c', 'late', 1), skip: 'waits for the crane' }])];
    expect(unpackBoard(JSON.parse(JSON.stringify(packBoard(all))))).toEqual(all);
    expect(unpackBoard(packBoard([]))).toEqual([]);
  });

  it('takes ten thousand looks in less than 700 bytes each ten', () => {
    const many = boardOf(
      Array.from({ length: 10_000 }, (_, i) => entry(`src/Pier${i % 300}`, `berth ${i} taken`, i, 'day')),
    );
    expect(JSON.stringify(packBoard(many)).length).toBeLessThan(700_000);
  });

  it('tells of a rejection before an approval, whichever capture it is about', () => {
    const decided = (kind: string): object => ({
      hash: 'f'.repeat(64),
      state: { kind: 'changed' },
      decision: { kind, who: 'Ada', why: null, fixer: null, stands: true },
    });
    const captures = [decided('approve'), decided('reject'), decided('approve')];
    const [one] = withResults([], [{ ...result('src/Pier', 'one', 0, 'day', 9), captures } as ResultSummary]);
    expect(one!.variants[0]!.decision).toEqual({ kind: 'reject', who: 'Ada', why: null, fixer: null });
  });

  it('takes in results: in the place of older ones, beside other environments, and new looks where they belong', () => {
    const next = withResults(looks, [
      result('src/b', 'one', 0, 'night', 900),
      result('src/b', 'two', 1, 'night', 901),
      result('src/aa', 'y', 0, 'day', 902),
    ]);
    expect(next.map(({ look, variants }) => `${look} ${variants.map(({ id }) => (id > 899 ? id : '-'))}`)).toEqual([
      'x -',
      'y 902',
      'one -,900',
      'two -,901',
    ]);
    expect(next[2]!.variants[1]).toEqual({
      id: 900,
      environment: 'night',
      verdict: 'failed',
      picture: 'f'.repeat(16),
      captures: 1,
      // A look that failed has nothing to decide about where nothing was approved before.
      undecided: 0,
      decision: null,
    });
    // What has not changed stays the same value: its tile is not drawn again.
    expect(next[0]).toBe(looks[0]);
  });

  it('has a look that is left out until it is run again', () => {
    const leftOut = boardOf([{ ...entry('src/a', 'x', 0), skip: 'waits for the crane' }]);
    expect(withResults(leftOut, [result('src/b', 'one', 0, 'day', 903)])[0]!.skip).toBe('waits for the crane');
    expect(withResults(leftOut, [result('src/a', 'x', 0, 'day', 904)])[0]!.skip).toBeNull();
  });
});

describe("the board's rows", () => {
  const looks = boardOf([
    entry('src/harbour/b', 'one', 0),
    entry('src/harbour/b', 'one', 0, 'night'),
    entry('src/harbour/b', 'two', 1),
    entry('src/harbour/b', 'three', 2),
    entry('src/harbour/parts/deep/a', 'x', 0),
    entry('src/harbour/parts/deep/a', 'y', 1, 'day', 'failed'),
  ]);

  it('group looks by folder and component, and count what is below', () => {
    expect(told(rowsOf(foldersOf(looks), 2, none))).toEqual([
      'component b 4',
      'one:2 two:1',
      'three:1',
      'folder parts/deep 1',
      '  component a 1',
      'x:1 y:1',
    ]);
  });

  it('show looks that are left out, and count them as nothing', () => {
    const some = looks.map((look) => (look.look === 'one' ? { ...look, skip: 'waits for the crane' } : look));
    expect(told(rowsOf(foldersOf(some), 3, none)).slice(0, 2)).toEqual(['component b 2', 'one:2 two:1 three:1']);
  });

  it('leave out what is in a folded group', () => {
    const folder = foldersOf(looks);
    const folded = (...keys: string[]) => told(rowsOf(folder, 2, new Set(keys)));
    expect(folded('src/harbour/b', 'src/harbour/parts/deep/')).toEqual([
      'component b 4 folded',
      'folder parts/deep 1 folded',
    ]);
    expect(groupKeys(folder)).toEqual(['src/harbour/b', 'src/harbour/parts/deep/', 'src/harbour/parts/deep/a']);
  });

  it('are none without looks', () => expect(rowsOf(foldersOf([]), 3, none)).toEqual([]));
});
