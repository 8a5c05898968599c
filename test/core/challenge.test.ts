/** Mutations as values: what is changed to what, and which ones a look is challenged with. */
import { describe, expect, it } from 'vitest';
import { scoreOf, scoresOf } from '../../src/core/challenge/challenge.ts';
import { chooseMutations } from '../../src/core/challenge/choose.ts';
import { otherText, otherValue } from '../../src/core/challenge/mutation.ts';
import { emptyMoment, type Moment } from '../../src/core/moment/moment.ts';
import type { Step } from '../../src/core/timeline/timeline.ts';

describe('another text', () => {
  it('is as long, and other in every letter and digit', () => {
    expect(otherText('Berth Z9, quay')).toBe('Cfsui A0, rvbz');
    expect(otherText('…')).toBe('…');
  });

  it('turns attributes round, or takes away what has no other value', () => {
    expect(otherValue('aria-expanded', 'true')).toBe('false');
    expect(otherValue('aria-expanded', 'false')).toBe('true');
    expect(otherValue('disabled', '')).toBeNull();
    expect(otherValue('aria-describedby', 'hint')).toBeNull();
    expect(otherValue('href', '/fees')).toBe('#');
    expect(otherValue('alt', 'Flag A')).toBe('Gmbh B');
  });
});

/** A list in a body; the script has added its second entry. */
const moment = (entries: string[]): Moment => ({
  ...emptyMoment(100, 100),
  nodes: {
    1: { tag: 'html', kids: [2, 3] },
    2: { tag: 'head', kids: [] },
    3: { tag: 'body', kids: [4, 5] },
    4: { tag: 'h2', kids: [40] },
    40: { text: 'Berths' },
    5: { tag: 'ul', kids: entries.map((_, i) => 10 + i) },
    ...Object.fromEntries(entries.map((_, i) => [10 + i, { tag: 'li', kids: [20 + i] }])),
    ...Object.fromEntries(entries.map((text, i) => [20 + i, { text }])),
  },
});

const step = (index: number, more: Partial<Step>): Step => ({
  index,
  kind: 'action',
  title: 'click button “Add”',
  parent: null,
  at: index,
  took: 1,
  outcome: 'passed',
  before: 0,
  after: 0,
  ...more,
});

describe('choosing mutations', () => {
  const base = moment(['A1']);
  const after = moment(['A1', 'B2']);
  const patches = [{ nodes: { 5: after.nodes[5]!, 11: after.nodes[11]!, 21: after.nodes[21]! } }];
  const steps = [
    step(0, { kind: 'mount' }),
    step(1, { after: 1 }),
    step(2, { kind: 'capture', title: 'capture end', before: 1, after: 1 }),
  ];
  const chosen = chooseMutations({ steps, marks: [], base, patches }, 'data-testid', 20);

  it('takes what the script has brought about, and leaves the rest alone', () => {
    const titles = chosen.map(({ title }) => title);
    expect(titles).toContain('the text “B2” is another one');
    expect(titles).not.toContain('the text “Berths” is another one');
    expect(titles).not.toContain('the text “A1” is another one');
    expect(chosen.find(({ mutation }) => mutation.kind === 'order')!.check).toBe(
      "await ensure(the.listitem('A1')).comesBefore(the.listitem('B2'));".replaceAll('listitem', 'text'),
    );
  });

  it('takes some of each kind when there may be few', () => {
    const few = chooseMutations({ steps, marks: [], base, patches }, 'data-testid', 3);
    expect(new Set(few.map(({ mutation }) => mutation.kind)).size).toBe(3);
  });
});

it('scores components, the one that misses most first, and rounds down', () => {
  const missed = { kind: 'text' as const, title: 'a', check: null, noticed: null };
  const noticed = { ...missed, noticed: { by: 'step' as const, title: 'ensure' } };
  const shown = { ...missed, noticed: { by: 'capture' as const, title: 'end' } };
  const look = (component: string, challenges: (typeof missed | typeof noticed | typeof shown)[]) => ({
    component,
    look: 'x',
    file: '',
    environment: 'day',
    note: null,
    challenges,
  });
  const scores = scoresOf([look('A', [noticed]), look('B', [missed, noticed, shown])]);
  expect(scores.map((score) => [score.component, scoreOf(score), score.noticed, score.byStep])).toEqual([
    ['B', 66, 2, 1],
    ['A', 100, 1, 1],
  ]);
  expect(scoreOf({ all: 0, noticed: 0 })).toBe(100);
});
