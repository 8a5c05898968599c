/** From places in bundled scripts to sources, by maps that leave some of them out. */
import { beforeAll, expect, it } from 'vitest';
import type { Bundle } from '../../src/bundle/bundle.ts';
import { locatorOf, sourceMapper } from '../../src/bundle/sourcemap.ts';
import { project } from '../support/project.ts';

/** Columns of the script with what they come from: a source, a line and a column of it (all from 0), or nothing. */
const mappings = [[[0, 0, 1, 4], [10], [20, 0, 1, 9], [30, 0, 2, 0], [40], [50, 1, 0, 2], [60]]];

let bundle: Bundle;

beforeAll(() => {
  const root = project({ 'src/Berth.svelte': 'a\nb\nc\n', 'src/Tide.svelte': 'd\n' });
  const sources = ['../../src/Berth.svelte', '../../src/Tide.svelte'];
  const map = { version: 3, sources, sourcesContent: ['a\nb\nc\n', 'd\n'], names: [], mappings };
  bundle = { root, maps: new Map([['/assets/Berth.js', JSON.stringify(map)]]) } as unknown as Bundle;
});

const script = 'http://x.localhost/assets/Berth.js';
const at = (column: number) => sourceMapper(bundle).place(`Error: no\n    at Berth (${script}:1:${column + 1})`);

/** A function of a profile that begins at a column. */
const located = (columnNumber: number) =>
  locatorOf(bundle)({
    id: 1,
    callFrame: { functionName: 'Berth', url: script, lineNumber: 0, columnNumber },
  });

it('takes what a compiler makes up within a source to belong to what stands before it', () => {
  expect(at(12)).toEqual({ file: 'src/Berth.svelte', line: 2, column: 5 });
  expect(at(19)).toEqual({ file: 'src/Berth.svelte', line: 2, column: 5 });
  expect(at(22)).toEqual({ file: 'src/Berth.svelte', line: 2, column: 10 });
});

it('knows nothing of what stands between two sources, or after the last', () => {
  expect(at(45)).toBeNull();
  expect(at(65)).toBeNull();
});

it('counts a function whose head a compiler made up as one of the component', () => {
  expect(located(12)).toEqual({ name: 'Berth', place: 'src/Berth.svelte:2', isOurs: false });
  expect(located(45)).toMatchObject({ place: null, isOurs: true });
});
