/** Sources in colours: line for line, and the scripts of a component file as code. */
import { expect, it } from 'vitest';
import { colouredLines } from '../../src/console/parts/coloured.ts';

const component = `<script setup lang="ts">
const tide = ref(0.4);
</script>
<template>
  <p>const as a word</p>
</template>`;

const keywords = (line: string): string[] =>
  [...line.matchAll(/sh-keyword\)">([^<]+)</g)].map(([, word]) => word!.trim());

it('the script of a component is code, its template is not', () => {
  const lines = colouredLines(component);
  expect(lines).toHaveLength(6);
  expect(keywords(lines[1]!)).toEqual(['const']);
  expect(keywords(lines[4]!)).toEqual([]);
});

it('every other source is one piece, and an empty one a line', () => {
  expect(colouredLines('const a = <p>const</p>;\nreturn a;').map(keywords)).toEqual([['const'], ['return']]);
  expect(colouredLines('')).toHaveLength(1);
});
