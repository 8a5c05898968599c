import { describe, expect, it } from 'vitest';
import { componentOf, lookKey, lookTitle } from '../../src/core/look/look.ts';
import { failSelecting, isSelected, matchesPattern } from '../../src/core/look/pattern.ts';
import type { ProblemError } from '../../src/core/problem/problem.ts';

const look = {
  file: 'src/berths/BerthCard.look.tsx',
  component: 'src/berths/BerthCard',
  look: 'asks before releasing',
};

describe('names of looks', () => {
  it('come from the look file', () => {
    expect(componentOf('src/BerthCard.look.tsx')).toBe('src/BerthCard');
    expect(componentOf('src/BerthCard.look.jsx')).toBe('src/BerthCard');
    expect(lookKey(look.component, look.look)).toBe('src/berths/BerthCard/asks before releasing');
    expect(lookTitle(look.component, look.look)).toBe('BerthCard › asks before releasing');
  });
});

describe('patterns', () => {
  it.each([
    'BerthCard',
    'berthcard',
    'asks',
    'berths/',
    'BerthCard/asks before releasing',
    './src/berths',
    'src/berths/BerthCard.look.tsx',
    'Berth*releasing',
    '*',
  ])('%s means it', (pattern) => expect(matchesPattern(look, pattern)).toBe(true));

  it.each(['FeeTable', 'releasing*Berth', 'asks.before', 'BerthCard › keeps'])('%s does not', (pattern) =>
    expect(matchesPattern(look, pattern)).toBe(false),
  );

  it.each([
    ['BerthCard/moored', ['moored']],
    ['src/berths/BerthCard/moored', ['moored']],
    ['berthcard › MOORED', ['moored']],
    ['./src/berths/BerthCard/moored', ['moored']],
    ['Card/moored', []],
    ['moored', ['moored', 'moored at night', 'not moored']],
    ['BerthCard/moored*', ['moored', 'moored at night']],
    ['BerthCard/in/out', ['in/out']],
    ['berths/BerthCard', ['moored', 'moored at night', 'not moored', 'in/out']],
    ['BerthCard/› odd', ['› odd']],
  ])('%s means exactly %j', (pattern, meant) => {
    const names = ['moored', 'moored at night', 'not moored', 'in/out', ...(pattern.includes('odd') ? ['› odd'] : [])];
    const found = names.filter((name) => matchesPattern({ ...look, look: name }, pattern));
    expect(found).toEqual(meant);
  });

  it('with many stars take time in proportion to the text', () => {
    const text = 'a'.repeat(20_000);
    expect(matchesPattern({ ...look, look: text }, `${'*a'.repeat(5000)}b`)).toBe(false);
    expect(matchesPattern({ ...look, look: `${text}b` }, `${'*a'.repeat(5000)}*b`)).toBe(true);
  });

  it('and full names can be told together', () => {
    const selected = isSelected(['FeeTable'], [{ component: look.component, look: look.look }]);
    expect(selected(look)).toBe(true);
    expect(selected({ ...look, look: `${look.look} twice` })).toBe(false);
    expect(selected({ file: 'src/FeeTable.look.tsx', component: 'src/FeeTable', look: 'x' })).toBe(true);
  });

  it('select everything when there are none, and what any of them means', () => {
    expect(isSelected([])(look)).toBe(true);
    expect(isSelected(['FeeTable', 'asks'])(look)).toBe(true);
    expect(isSelected(['FeeTable', 'keeps'])(look)).toBe(false);
  });
});

describe('a pattern that means nothing', () => {
  const all = ['empty', 'asks before releasing'].map((look) => ({ component: 'src/BerthCard', look }));
  const told = (patterns: string[], wanted?: string[]): { message: string; remedy: string } => {
    try {
      return failSelecting(patterns, all, wanted);
    } catch (error) {
      return (error as ProblemError).problem;
    }
  };

  it('is told with what it is a part of, or nearly is', () => {
    expect(told(['BerthCard/asks'])).toMatchObject({
      message: 'No looks match “BerthCard/asks”.',
      remedy: expect.stringMatching(/^Did you mean 'BerthCard\/asks before releasing'\?/),
    });
    expect(told(['BerthCrad']).remedy).toMatch(/^Did you mean 'BerthCard'\?/);
    expect(told(['emtpy']).remedy).toMatch(/^Did you mean 'empty'\?/);
  });

  it('is told by itself where nothing is near, with whatever else was wanted', () => {
    expect(told(['nobody at all']).remedy).toMatch(/^Use part of/);
    expect(told([], ['the tag quick']).message).toBe('No looks match “the tag quick”.');
    expect(told([]).message).toBe('No looks match the configuration.');
  });
});
