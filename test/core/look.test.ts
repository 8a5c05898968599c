import { describe, expect, it } from 'vitest';
import { componentOf, lookKey, lookTitle } from '../../src/core/look/look.ts';
import { isSelected, matchesPattern } from '../../src/core/look/pattern.ts';

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

  it('select everything when there are none, and what any of them means', () => {
    expect(isSelected([])(look)).toBe(true);
    expect(isSelected(['FeeTable', 'asks'])(look)).toBe(true);
    expect(isSelected(['FeeTable', 'keeps'])(look)).toBe(false);
  });
});
