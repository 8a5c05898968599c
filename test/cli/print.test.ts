/** What is written to a terminal, word by word. */
import { describe, expect, it } from 'vitest';
import * as print from '../../src/cli/print.ts';
import type { ResultSummary } from '../../src/core/run/run.ts';
import { type Problem, problem } from '../../src/core/problem/problem.ts';
import { tally } from '../../src/core/run/verdict.ts';

const result: ResultSummary = {
  id: 7,
  run: 2,
  file: 'src/FeeTable.look.tsx',
  component: 'src/FeeTable',
  look: 'sorts by price',
  order: 5,
  hasScript: true,
  after: null,
  environment: 'day',
  repetition: 1,
  verdict: 'passed',
  problem: null,
  notes: [],
  orderDependent: false,
  isUnsteady: false,
  isContradiction: false,
  took: 41,
  steps: 6,
  failedStep: null,
  captures: [],
};
const missing: Problem = problem(
  'target-missing',
  { target: 'the button “Each”', patience: 2000 },
  { found: ['button “Sum”', 'button “Units”'], place: 'src/FeeTable.look.tsx:18:15', frame: '▸ 18 │ click' },
);

describe('a look', () => {
  it('is one line, with its verdict as a shape, and as a word unless it passed', () => {
    expect(print.lookLine(result)).toBe('✓ FeeTable › sorts by price · day · 41 ms');
    expect(print.lookLine({ ...result, verdict: 'changed' })).toBe(
      '≠ FeeTable › sorts by price · day · 41 ms · changed',
    );
    expect(print.verdictWord('broken')).toBe('▲ broken');
  });

  it('that failed tells step, problem and link', () => {
    const failed: ResultSummary = {
      ...result,
      verdict: 'failed',
      problem: missing,
      failedStep: 2,
      notes: ['one', 'one', 'two'],
    };
    expect(print.resultText(failed, ['day', 'night'], 'http://127.0.0.1:4680', 'click the button “Each”')).toBe(
      [
        '✗ failed  FeeTable › sorts by price  day, night',
        '  step 3 of 6: click the button “Each”',
        '  Nothing matched the button “Each” within 2000 ms.',
        '  instead  button “Sum”',
        '           button “Units”',
        '  src/FeeTable.look.tsx:18:15',
        '  ▸ 18 │ click',
        `  → ${missing.remedy}`,
        '  note one',
        '  note two',
        '  http://127.0.0.1:4680/bench/7?step=2',
      ].join('\n'),
    );
  });

  it('that changed tells what differs in each capture', () => {
    const capture = {
      name: 'end',
      hash: 'b',
      width: 1,
      height: 1,
      step: 1,
      moment: 1,
      canonical: 'c',
      isVouched: false,
      allowances: [],
      baseline: 'a',
      difference: 'c',
      decision: null,
    };
    const changed: ResultSummary = {
      ...result,
      verdict: 'changed',
      captures: [
        {
          ...capture,
          state: {
            kind: 'changed',
            otherFingerprint: true,
            markup: [
              { side: 'baseline', line: 1, text: '  Water' },
              { side: 'now', line: 1, text: '  Rain' },
            ],
            picture: {
              from: [584, 289],
              to: [584, 342],
              differing: 20,
              visible: 12,
              strongest: 0.4,
              regions: [{ box: [0, 0, 1, 1], pixels: 12, strongest: 0.4 }],
              added: [],
              lost: [],
            },
          },
        },
        { ...capture, name: 'half', state: { kind: 'same' } },
      ],
    };
    const text = print.resultText(changed, ['day'], 'http://127.0.0.1:4680', null);
    expect(text).toContain(
      '  end: size 584×289 → 584×342; 12 pixels differ visibly in 1 region; 2 lines of markup differ; ' +
        'the baseline was taken with another browser, other fonts or in another environment\n' +
        '    − Water\n    + Rain',
    );
    expect(text).not.toContain('half');
  });
});

describe('a run', () => {
  it('is told worst first, without what did not happen', () => {
    expect(print.tallyText({ tally: tally(['passed', 'failed', 'passed', 'new', 'changed']) })).toBe(
      '1 failed, 1 changed, 1 new, 2 passed',
    );
    expect(print.tallyText({ tally: tally([]) })).toBe('no verdicts');
  });

  it('tells how long it took', () => {
    expect(print.duration({ started: '2026-03-02T09:30:00.000Z', finished: '2026-03-02T09:30:04.260Z' })).toBe('4.3 s');
  });
});
