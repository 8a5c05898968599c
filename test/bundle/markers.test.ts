/** Code whose markers of lazy imports have given way, in each form that Vite gives them. */
import { expect, it } from 'vitest';
import { settled } from '../../src/bundle/markers.ts';

const hashed = `__VITE_PRELOAD__${'0fa9'.repeat(8)}`;

it.each([
  ['as a name', '__VITE_PRELOAD__'],
  ['with a hash', hashed],
  ['as a text', '"__VITE_PRELOAD__"'],
])('a marker %s becomes an argument that says nothing', (_, marker) => {
  const code = `preload(() => 'lazy', ${marker})`;
  const given = new Function('preload', `return ${settled(code)}`)((...args: unknown[]) => args) as unknown[];
  expect(given).toEqual([expect.any(Function), undefined]);
  expect(settled(code)).toHaveLength(code.length);
});

it('code without markers stays as it is', () => {
  expect(settled('preload(() => 1, void 0)')).toBe('preload(() => 1, void 0)');
});
