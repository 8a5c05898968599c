/** What of a source can be run, and how counts of a script become counts of it. */
import { describe, expect, test } from 'vitest';
import { countsAt } from '../../src/core/coverage/hits.ts';
import { coverageMapOf } from '../../src/core/coverage/istanbul.ts';
import { linesOf, partsOf, percentText, shortfallsOf, shortfallText } from '../../src/core/coverage/report.ts';
import { countsOf, probesOf } from '../../src/core/coverage/structure.ts';
import { unreachedIn } from '../../src/core/coverage/unreached.ts';
import { structureOf } from '../../src/coverage/structure.ts';

const read = (text: string, path = 'Buoy.tsx') => structureOf(path, text)!;
const texts = (text: string, spans: readonly (readonly [number, number])[]): string[] =>
  spans.map((span) => text.slice(...span));

describe('structure', () => {
  test('statements, functions and branches, and nothing of what types are', () => {
    const text = `import { a } from './a';
type Kind = 'calm' | 'gale';
interface Props { kind: Kind }
declare const outside: number;
const width = 520;
let depth = a(width);
export function Buoy({ kind }: Props) {
  if (kind === 'gale') return <b onClick={() => a(1)}>Away</b>;
  return depth > 3 && <i>{kind ? depth : null}</i>;
}`;
    const { statements, functions, branches } = read(text);
    expect(texts(text, statements)).toEqual([
      'depth = a(width)',
      "if (kind === 'gale') return <b onClick={() => a(1)}>Away</b>;",
      'return <b onClick={() => a(1)}>Away</b>;',
      'a(1)',
      'return depth > 3 && <i>{kind ? depth : null}</i>;',
    ]);
    expect(functions.map(({ name }) => name)).toEqual(['Buoy', 'onClick']);
    expect(functions[1]!.handler).toEqual({ event: 'click', element: 'b', text: 'Away' });
    expect(branches.map(({ kind, arms }) => [kind, arms.length])).toEqual([
      ['if', 2],
      ['and-or', 2],
      ['choice', 2],
    ]);
  });

  test('scripts of single-file components stand where they do in the file', () => {
    const text = `<template>
  <p>{{ a }}</p>
</template>
<script setup lang="ts">
const { c } = defineProps<{ c: string }>();
let a: number = b();
</script>`;
    expect(texts(text, read(text, 'Buoy.vue').statements)).toEqual(['a: number = b()']);
  });

  test('what cannot be parsed, and what is no code, has none', () => {
    expect(structureOf('a.ts', 'let a = ;')).toBeNull();
    expect(structureOf('a.css', 'a {}')).toBeNull();
    expect(structureOf('a.d.ts', 'declare const a: 1')).toBeNull();
    expect(structureOf('empty.ts', '')).toEqual({ statements: [], functions: [], branches: [] });
  });
});

test('the innermost range says how often a place was run', () => {
  const range = (startOffset: number, endOffset: number, count: number) => ({ startOffset, endOffset, count });
  const functions = [{ ranges: [range(10, 100, 3), range(20, 40, 1)] }, { ranges: [range(50, 60, 7)] }];
  expect([...countsAt(functions, [5, 10, 20, 39, 40, 55, 60, 99, 100])]).toEqual([0, 3, 1, 1, 3, 7, 3, 3, 0]);
});

describe('counts', () => {
  const text = `export const f = (a: boolean) => {\n  if (a) return 1;\n  return 2;\n};`;
  const structure = read(text, 'f.ts');
  // Probes: the arrow that is given a name, if, return 1, return 2; the function; before the if, its arm.
  const hits = [1, 5, 2, 3, 5, 5, 2];

  test('the way past an if is taken as often as its arm is not', () => {
    expect(probesOf(structure)).toHaveLength(hits.length);
    expect(countsOf(structure, hits)).toEqual({ statements: [1, 5, 2, 3], functions: [5], branches: [[2, 3]] });
  });

  test('lines, shares, and what Istanbul reads', () => {
    const counts = countsOf(structure, [1, 5, 5, 0, 5, 5, 5]);
    expect([...linesOf(structure, counts, text)]).toEqual([
      [1, 1],
      [2, 5],
      [3, 0],
    ]);
    expect(partsOf(structure, counts, text)).toEqual({
      lines: { covered: 2, all: 3 },
      branches: { covered: 1, all: 2 },
      functions: { covered: 1, all: 1 },
    });
    const file = coverageMapOf('/f.ts', text, structure, counts);
    expect(file.statementMap['3']).toEqual({ start: { line: 3, column: 2 }, end: { line: 3, column: 11 } });
    expect(file.b).toEqual({ '0': [5, 0] });
    expect(file.fnMap['0']!.name).toBe('f');
  });

  test('a share is never rounded to all or to nothing', () => {
    expect(percentText({ covered: 999, all: 1000 })).toBe('99 %');
    expect(percentText({ covered: 1, all: 1000 })).toBe('1 %');
    expect(percentText({ covered: 0, all: 0 })).toBe('–');
  });

  test('less than wanted is told, and so is a pattern that nothing matches', () => {
    const part = { covered: 1, all: 2 };
    const file = { path: 'a.ts', looks: 1, lines: part, branches: part, functions: part };
    expect(shortfallsOf('src/**', { lines: 50, branches: 51 }, [file])).toEqual([
      { pattern: 'src/**', kind: 'branches', wanted: 51, percent: 50, files: 1 },
    ]);
    const [nothing] = shortfallsOf('x/**', { lines: 1 }, []);
    expect(shortfallText(nothing!)).toBe('No source matches x/**, which needs 1 % of its lines.');
  });
});

describe('what no look reaches', () => {
  const style = { quote: "'", indent: '  ', semicolon: ';', isTyped: true } as const;
  const text = `export function Buoy({ isLit, sea }) {
  return <div>{isLit ? 'lit' : 'dark'}<button onClick={() => release()}>Release</button></div>;
}`;
  const structure = read(text);
  const types = {
    is: 'object' as const,
    name: 'Props',
    others: null,
    entries: {
      isLit: { isOptional: true, isOwn: true, type: { is: 'boolean' as const } },
      sea: {
        isOptional: false,
        isOwn: true,
        type: {
          is: 'one' as const,
          of: [
            { is: 'value' as const, value: 'calm' },
            { is: 'value' as const, value: 'gale' },
          ],
        },
      },
    },
  };

  test('values, ways and handlers, each with a look that would', () => {
    const given = [[{ path: 'sea', values: ['calm'] }]];
    // The component was rendered with isLit false; its handler was never called.
    const counts = {
      statements: [1, 0],
      functions: [1, 0],
      branches: [[0, 1]],
    };
    expect(unreachedIn({ text, structure, counts }, { types, given, style })).toEqual([
      { kind: 'value', what: 'sea "gale"', line: null, draft: "'sea gale': { props: { sea: 'gale' } }," },
      {
        kind: 'handler',
        what: 'onClick of <button> “Release”',
        line: 2,
        draft: "'click on Release': {\n  script: async () => {\n    await click(the.button('Release'));\n  },\n},",
      },
      { kind: 'branch', what: 'isLit is never true', line: 2, draft: 'isLit: { props: { isLit: true } },' },
    ]);
  });

  test('of what is not run at all no ways are told', () => {
    const counts = { statements: [0, 0], functions: [0, 0], branches: [[0, 0]] };
    const found = unreachedIn({ text, structure, counts }, { types: null, given: [], style });
    expect(found.map(({ kind }) => kind)).toEqual(['function', 'handler']);
  });
});
