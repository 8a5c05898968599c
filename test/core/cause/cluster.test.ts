/** Captures put together by their causes: in which order, how they are told, and what is left when some are chosen. */
import { describe, expect, it } from 'vitest';
import { chosenCauses } from '../../../src/cli/causes.ts';
import type { Cause, Explanation } from '../../../src/core/cause/cause.ts';
import { type About, type CauseList, clusters, type ExplainedCapture } from '../../../src/core/cause/cluster.ts';
import type { Effect } from '../../../src/core/cause/effect.ts';

const effect = (now: string): Effect => ({
  properties: ['color'],
  before: 'black',
  now,
  by: { rule: '.tag', property: 'color', value: 'var(--calm)' },
  wasBy: null,
});

const cause = (more: Partial<Cause> = {}): Cause => ({
  key: 'k',
  kind: 'style',
  title: '.card: gap',
  before: '4px',
  now: '5px',
  elements: 1,
  outlines: [],
  pixels: 1,
  regions: [],
  effects: [],
  trace: { property: null, selector: null, texts: [] },
  ...more,
});

let results = 0;

function capture(more: Partial<ExplainedCapture>, ...causes: Cause[]): ExplainedCapture {
  const result = ++results;
  const explanation: Explanation = { causes, proof: 'proved', unexplained: [], note: null };
  return {
    pair: `p${result}`,
    result,
    run: 1,
    file: 'src/Card.look.tsx',
    component: 'src/Card',
    look: 'plain',
    environment: 'day',
    capture: 'end',
    hash: 'b',
    baseline: 'a',
    difference: null,
    decision: null,
    failure: null,
    explanation,
    ...more,
  };
}

const about: About = {
  placeOf: () => null,
  placeOfWinner: () => ({ file: 'src/tokens.css', line: 3 }),
  decisionOf: () => null,
  commentsOf: () => [],
  commentsOn: () => [],
  seenBy: () => [],
  idOf: (key) => key,
};

const listOf = (...all: ExplainedCapture[]): CauseList => ({ ...clusters(all, about), withoutBaseline: [] });
const titles = (...all: ExplainedCapture[]): string[] => listOf(...all).causes.map(({ title }) => title);

describe('captures of one cause', () => {
  it('are told in their own words where these are the same, and by the value where they differ', () => {
    const row = capture({}, cause({ title: '.row: gap' }));
    expect(titles(capture({}, cause()), capture({}, cause()))).toEqual(['.card: gap']);
    expect(titles(capture({}, cause()), row)).toEqual(['4px → 5px, in several rules']);
  });

  it('come environment by environment, whichever was run first, and otherwise as they came', () => {
    const { causes } = listOf(
      capture({ environment: 'night', look: 'empty' }, cause()),
      capture({ look: 'moored' }, cause()),
      capture({ environment: 'night', look: 'aground' }, cause()),
      capture({ look: 'free' }, cause()),
    );
    const places = causes[0]!.captures.map(({ look, environment }) => `${look} ${environment}`);
    expect(places).toEqual(['moored day', 'free day', 'empty night', 'aground night']);
  });

  it('are as sure as the least sure of them, and know each other’s causes', () => {
    const drawn: Explanation = {
      causes: [cause(), cause({ key: 'other' })],
      proof: 'drawn',
      unexplained: [],
      note: 'n',
    };
    const { causes } = listOf(capture({}, cause()), capture({ explanation: drawn }));
    expect(causes.map(({ key, proof }) => [key, proof])).toEqual([
      ['k', 'drawn'],
      ['other', 'drawn'],
    ]);
    expect(causes[0]!.captures.map(({ proof, others, note }) => [proof, others, note])).toEqual([
      ['proved', [], null],
      ['drawn', ['other'], 'n'],
    ]);
  });
});

describe('causes', () => {
  it('with the most captures come first, and failures last', () => {
    const failed = { explanation: null, failure: { message: 'It sank.', place: { file: 'src/Sea.ts', line: 9 } } };
    const { causes, changes } = listOf(
      capture(failed),
      capture(failed),
      capture(failed),
      capture({}, cause({ key: 'b', title: 'b' })),
      capture({}, cause({ key: 'a', title: 'a' })),
      capture({}, cause({ key: 'c', title: 'c' })),
      capture({}, cause({ key: 'c', title: 'c' })),
    );
    expect(changes).toBe(7);
    expect(causes.map(({ number, title }) => `${number} ${title}`)).toEqual(['1 c', '2 a', '3 b', '4 It sank.']);
    expect(causes.at(-1)).toMatchObject({ kind: 'failed', proof: null, place: { file: 'src/Sea.ts', line: 9 } });
  });

  it('that were not found are told with why', () => {
    const why: Explanation = { causes: [], proof: 'unexplained', unexplained: [], note: 'It was not recorded.' };
    const silent = { ...why, note: null };
    const { causes, unexplained } = listOf(capture({ explanation: why }), capture({ explanation: silent }));
    expect(causes).toEqual([]);
    expect(unexplained.map(({ note }) => note)).toEqual(['It was not recorded.', 'No cause was found.']);
  });
});

describe('what a cause does', () => {
  const both = listOf(
    capture({ environment: 'night' }, cause({ effects: [effect('lime')] })),
    capture({}, cause({ effects: [effect('green')] })),
  );
  const inEnvironment = (name: string): CauseList => chosenCauses(both, ({ environment }) => environment === name);

  it('is told of its first capture, with the place of what wins', () => {
    const [first] = both.causes;
    expect(first!.captures.map(({ environment }) => environment)).toEqual(['day', 'night']);
    // Which cause stands for all of them is that of the first.
    expect(first!.effects).toMatchObject([{ now: 'green', by: { place: { file: 'src/tokens.css', line: 3 } } }]);
  });

  it('is not told of captures in another environment, where it may be something else', () => {
    expect(inEnvironment('day').causes[0]!.effects).toHaveLength(1);
    expect(inEnvironment('night').causes[0]!.effects).toEqual([]);
  });

  it('leaves what is chosen with its number, and nothing of what is not', () => {
    const two = listOf(
      capture({}, cause({ key: 'b', title: 'b' })),
      capture({ environment: 'night' }, cause({ key: 'a', title: 'a' })),
    );
    const { causes, changes } = chosenCauses(two, ({ environment }) => environment === 'day');
    expect([changes, causes.map(({ number, title }) => `${number} ${title}`)]).toEqual([1, ['2 b']]);
  });
});
