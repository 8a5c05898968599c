import { describe, expect, it } from 'vitest';
import { componentOf, fileName, isSelected, lookKey, lookTitle, matchesPattern, shortHash } from '../../src/core/look.ts';

const look = { file: 'src/berths/BerthCard.look.tsx', component: 'src/berths/BerthCard', look: 'asks before releasing' };

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
    'BerthCard › asks',
    './src/berths',
    'src/berths/BerthCard.look.tsx',
    'Berth*releasing',
    '*',
  ])('%s means it', (pattern) => expect(matchesPattern(look, pattern)).toBe(true));

  it.each(['FeeTable', 'releasing*Berth', 'asks.before', 'BerthCard › keeps'])('%s does not', (pattern) => expect(matchesPattern(look, pattern)).toBe(false));

  it('select everything when there are none, and what any of them means', () => {
    expect(isSelected(look, [])).toBe(true);
    expect(isSelected(look, ['FeeTable', 'asks'])).toBe(true);
    expect(isSelected(look, ['FeeTable', 'keeps'])).toBe(false);
  });
});

describe('fileName', () => {
  it('keeps names that are file names already', () => {
    expect(fileName('asks before releasing')).toBe('asks-before-releasing');
  });

  it('gives names that lose something a hash, so that no two share a file', () => {
    const names = ['Asks before releasing', 'asks before releasing?', 'asks  before releasing', 'asks-before-releasing', 'può attraccare', '///', '???'];
    const files = [...names, 'asks before releasing'].map(fileName);
    expect(new Set(files).size).toBe(files.length);
    for (const file of files) expect(file).toMatch(/^[a-z0-9-]+$/);
  });

  it('is short enough for every file system', () => {
    expect(fileName('x'.repeat(500)).length).toBeLessThan(100);
  });
});

describe('shortHash', () => {
  it('is the 32-bit FNV-1a hash of ASCII text', () => {
    expect(shortHash('')).toBe('811c9dc5');
    expect(shortHash('a')).toBe('e40c292c');
    expect(shortHash('foobar')).toBe('bf9cf968');
  });
});
