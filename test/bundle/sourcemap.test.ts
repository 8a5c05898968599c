/** From places in bundled scripts to sources, by maps that leave some of them out. */
import { beforeAll, expect, it } from 'vitest';
import type { Bundle } from '../../src/bundle/bundle.ts';
import { type SourceMapper, sourceMapper } from '../../src/bundle/sourcemap.ts';
import { project } from '../support/project.ts';

/** Columns of the script with what they come from: a source, a line and a column of it (all from 0), or nothing. */
const mappings = [[[0, 0, 1, 4], [10], [20, 0, 1, 9], [30, 0, 2, 0], [40], [50, 1, 0, 2], [60]]];

let mapper: SourceMapper;

beforeAll(() => {
  const root = project({ 'src/Berth.svelte': 'a\nb\nc\n', 'src/Tide.svelte': 'd\n' });
  const sources = ['../../src/Berth.svelte', '../../src/Tide.svelte'];
  const map = { version: 3, sources, sourcesContent: ['a\nb\nc\n', 'd\n'], names: [], mappings };
  mapper = sourceMapper({ root, maps: new Map([['/assets/Berth.js', JSON.stringify(map)]]) } as unknown as Bundle);
});

const at = (column: number) =>
  mapper.place(`Error: no\n    at Berth (http://x.localhost/assets/Berth.js:1:${column + 1})`);

it('takes what a compiler makes up within a source to belong to what stands before it', () => {
  expect(at(12)).toEqual({ file: 'src/Berth.svelte', line: 2, column: 5 });
  expect(at(19)).toEqual({ file: 'src/Berth.svelte', line: 2, column: 5 });
  expect(at(22)).toEqual({ file: 'src/Berth.svelte', line: 2, column: 10 });
});

it('knows nothing of what stands between two sources, or after the last', () => {
  expect(at(45)).toBeNull();
  expect(at(65)).toBeNull();
});
