import { expect, it } from 'vitest';
import { openStore } from '../../src/store/index.ts';

const explanation = { causes: [], proof: 'proved' as const, unexplained: [], note: null };

it('are kept by both sides, the newest twenty thousand, and replaced by later ones', () => {
  const store = openStore(':memory:');
  const { explanations } = store;
  expect(explanations.get('a')).toBeNull();
  store.together(() => {
    for (let n = 0; n < 20_010; n++) explanations.put(`pair ${n}`, explanation);
  });
  explanations.put('pair 3', { ...explanation, note: 'again' });
  store.prune(10);
  expect(explanations.get('pair 0')).toBeNull();
  expect(explanations.get('pair 3')!.note).toBe('again');
  expect(explanations.get('pair 20009')).toEqual(explanation);
});

it('have decisions about each cause of a pair; the newest one counts, and none is taken back', () => {
  const { explanations } = openStore(':memory:');
  const about = { cause: 'c', pair: 'p', who: 'Ada', why: null, fixer: null, batch: 1 };
  explanations.decide([{ ...about, kind: 'approve' }]);
  explanations.decide([{ ...about, kind: 'reject', why: 'too dark' }]);
  expect(explanations.decision('c', 'p')).toMatchObject({ kind: 'reject', why: 'too dark', who: 'Ada' });
  expect(explanations.decision('c', 'another')).toBeNull();
});
