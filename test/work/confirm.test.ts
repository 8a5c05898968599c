/** What is made of a look that came out differently after others. */
import { describe, expect, it } from 'vitest';
import { emptyMoment } from '../../src/core/moment/moment.ts';
import type { FinishedLook } from '../../src/core/run/finished.ts';
import type { Verdict } from '../../src/core/run/verdict.ts';
import { confirm } from '../../src/work/confirm.ts';
import type { Ran } from '../../src/work/job.ts';

const home = 'src/Basket.look.tsx';

/** Looks of the same file. */
const here = (...looks: string[]): Ran[] => looks.map((look) => ({ file: home, look }));

/** A finished look of which only the verdict, what its capture says and its notes matter. */
const came = (verdict: Verdict): FinishedLook =>
  ({
    info: { file: home },
    verdict,
    problem: verdict === 'failed' ? { code: 'check-failed', message: 'No buoy.' } : null,
    captures: [{ summary: { name: 'end', hash: verdict, state: { kind: verdict } }, markup: [`it is ${verdict}`] }],
    timeline: { steps: [], base: emptyMoment(10, 10), patches: [], assets: {}, marks: [] },
    notes: [],
    orderDependent: false,
    isUnsteady: false,
    isContradiction: false,
  }) as unknown as FinishedLook;

/** Tries in which `outcome` says how the look comes out after other looks. */
function tries(outcome: (before: readonly string[], turn: number) => Verdict) {
  const ran: string[] = [];
  const run = async (looks: readonly Ran[]): Promise<FinishedLook> => {
    const before = looks.map(({ look }) => look);
    ran.push(before.join('+') || 'alone');
    return came(outcome(before, ran.length));
  };
  return { ran, alone: () => run([]), after: run };
}

describe('a look that did not pass after others', () => {
  it('is as it is alone, and needs one try when that is the same', async () => {
    const again = tries(() => 'changed');
    const look = await confirm(came('changed'), here('a', 'b'), again);
    expect([look.verdict, look.notes, look.orderDependent, look.isUnsteady]).toEqual(['changed', [], false, false]);
    expect(again.ran).toEqual(['alone']);
  });

  it('depends on them when that was shown twice, and alone never; the one is named', async () => {
    const again = tries((before) => (before.includes('b') ? 'failed' : 'passed'));
    const look = await confirm(came('failed'), here('a', 'b', 'c'), again);
    expect([look.verdict, look.orderDependent, look.isUnsteady]).toEqual(['passed', true, false]);
    expect(look.notes).toEqual([
      expect.stringMatching(/^After “b” it came out as failed \(No buoy\)\. What counts is/),
    ]);
    expect(again.ran).toEqual(['alone', 'a+b+c', 'a+b+c', 'alone', 'c', 'b']);
  });

  it('may depend on a look of another file, which is said', async () => {
    const again = tries((before) => (before.includes('full') ? 'failed' : 'passed'));
    const others = [{ file: 'src/Till.look.tsx', look: 'full' }];
    const look = await confirm(came('failed'), others, again);
    expect(look.notes).toEqual([expect.stringMatching(/^After “full” of src\/Till\.look\.tsx it came out as failed/)]);
  });

  it('may depend on several together', async () => {
    const again = tries((before) => (before.length > 1 ? 'changed' : 'passed'));
    const look = await confirm(came('changed'), here('a', 'b'), again);
    expect(look.notes[0]).toContain(
      'After the 2 looks before it it came out as changed. ' +
        'It differed: the capture “end” has other markup: − it is passed  + it is changed. What counts',
    );
  });

  it.each([
    ['it was alone', [], () => 'passed'],
    ['it passes after them, too', ['a'], () => 'passed'],
    ['it does so only once', ['a'], (_: unknown, turn: number) => (turn === 2 ? 'failed' : 'passed')],
    [
      'it is no better alone',
      ['a'],
      (before: readonly string[], turn: number) => (before.length > 0 || turn > 1 ? 'failed' : 'passed'),
    ],
  ] as const)('is unsteady when %s', async (_, before, outcome) => {
    const look = await confirm(came('failed'), here(...before), tries(outcome as () => Verdict));
    expect([look.orderDependent, look.isUnsteady]).toEqual([false, true]);
    expect(look.notes).toEqual([
      expect.stringMatching(/^At the first try it came out as failed \(No buoy\)\. The looks that ran/),
    ]);
  });
});
