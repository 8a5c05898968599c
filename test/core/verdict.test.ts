import { describe, expect, it } from 'vitest';
import { problem } from '../../src/core/problem/problem.ts';
import type { CaptureSummary, DecisionNote } from '../../src/core/run/run.ts';
import { isUndecided, standing } from '../../src/core/run/run.ts';
import { type CaptureState, exitCode, judge, tally } from '../../src/core/run/verdict.ts';

const same: CaptureState = { kind: 'same' };
const fresh: CaptureState = { kind: 'new' };
const changed: CaptureState = { kind: 'changed', picture: null, markup: [], otherFingerprint: false };
const unreadable: CaptureState = { kind: 'unreadable', why: problem('baseline-torn', { file: 'a.png' }) };

describe('judge', () => {
  it('lets what the script came to decide before any picture', () => {
    expect(judge('failed', [changed])).toBe('failed');
    expect(judge('broken', [])).toBe('broken');
  });

  it.each([
    ['passed', [same, same]],
    ['passed', []],
    ['new', [same, fresh]],
    ['changed', [fresh, changed, same]],
    ['failed', [changed, unreadable]],
  ] as const)('is %s', (verdict, captures) => expect(judge('passed', captures)).toBe(verdict));
});

describe('exitCode', () => {
  const of = (...verdicts: Parameters<typeof tally>[0]): number => exitCode(tally(verdicts), false);

  it('is 0 when all passed or are new, 1 when anything went wrong or changed', () => {
    expect(of('passed', 'new')).toBe(0);
    expect(of()).toBe(0);
    for (const verdict of ['failed', 'broken', 'changed'] as const) expect(of('passed', verdict)).toBe(1);
  });

  it('is 1 for what is new when that is asked for', () => {
    expect(exitCode(tally(['new']), true)).toBe(1);
    expect(exitCode(tally(['passed']), true)).toBe(0);
  });
});

describe('decisions', () => {
  const note = (kind: DecisionNote['kind']): DecisionNote => ({
    kind,
    who: 'Ada',
    at: '2026-03-02T09:30:00Z',
    why: null,
    fixer: null,
    stands: true,
  });
  const capture = (state: CaptureState, decision: DecisionNote | null): CaptureSummary => ({
    name: 'end',
    hash: 'a',
    width: 1,
    height: 1,
    step: 0,
    moment: 0,
    canonical: 'b',
    isVouched: false,
    allowances: [],
    state,
    baseline: null,
    difference: null,
    decision,
  });

  it('wait for whatever is not the same and that nobody has decided about', () => {
    expect(isUndecided(capture(changed, null))).toBe(true);
    expect(isUndecided(capture(fresh, null))).toBe(true);
    expect(isUndecided(capture(same, null))).toBe(false);
    expect(isUndecided(capture(changed, note('reject')))).toBe(false);
  });

  it('turn a result into a passed one only when everything in it was approved', () => {
    const result = (verdict: 'changed' | 'failed', ...captures: CaptureSummary[]) => standing({ verdict, captures });
    expect(result('changed', capture(changed, note('approve')), capture(same, null))).toBe('passed');
    expect(result('changed', capture(changed, note('approve')), capture(changed, null))).toBe('changed');
    expect(result('changed', capture(changed, note('reject')))).toBe('changed');
    expect(result('failed', capture(changed, note('approve')))).toBe('failed');
  });
});
