/** Results of looks of a harbour office, as the service tells them. */
import { noProgress } from '../../core/run/progress.ts';
import { boardOf, type BoardLook, variantOf } from '../../core/run/board.ts';
import { type CaptureSummary, type ResultSummary, type RunSummary, usualRequest } from '../../core/run/run.ts';
import { type Tally, tally, type Verdict } from '../../core/run/verdict.ts';
import type { Problem } from '../../core/problem/problem.ts';
import type { ProjectInfo } from '../../core/api/api.ts';
import { hashOf } from './picture.ts';

const parts: Record<string, readonly string[]> = {
  'src/ArrivalForm': ['empty', 'filled', 'booked', 'the draught is too much'],
  'src/BerthCard': ['free', 'taken', 'reserved', 'released', 'with a very long name of a ship'],
  'src/FeeTable': ['by ship', 'sorted by fee'],
  'src/TideCurve': ['spring tide', 'neap tide'],
  'src/WeatherNotice': ['calm', 'gale', 'no answer'],
};

/** What is out of the ordinary; everything else has passed. */
const unusual: Record<string, Verdict> = {
  'src/BerthCard released': 'failed',
  'src/BerthCard taken': 'changed',
  'src/BerthCard reserved': 'changed',
  'src/TideCurve neap tide': 'new',
  'src/WeatherNotice no answer': 'broken',
};

function captureOf(id: number, verdict: Verdict): CaptureSummary {
  const baseline = verdict === 'changed' ? hashOf(id + 5000) : null;
  const state: Partial<Record<Verdict, CaptureSummary['state']>> = {
    new: { kind: 'new' },
    changed: { kind: 'changed', picture: null, markup: [], otherFingerprint: false },
  };
  return {
    name: 'end',
    hash: hashOf(id),
    width: 420,
    height: 180,
    step: 2,
    moment: 3,
    canonical: hashOf(id),
    isVouched: verdict === 'passed',
    allowances: [],
    state: state[verdict] ?? { kind: 'same' },
    baseline,
    difference: null,
    decision: null,
  };
}

/** What the look that failed came to. */
export const noCall: Problem = {
  code: 'check-failed',
  message: 'Expected onRelease to have been called with "C-14".',
  remedy: 'Fix the component, or what the check expects.',
  found: ['It was not called.'],
  place: 'src/BerthCard.look.tsx:18:13',
  frame: [
    "  16 |     await click(the.button('Release berth'));",
    "> 18 |     await ensure(props.onRelease).wasCalledWith('C-14');",
    '     |             ^',
  ].join('\n'),
};

const noAnswer: Problem = {
  code: 'render-threw',
  message: 'TypeError: Cannot read properties of undefined (reading “force”)',
  remedy: 'Fix the code shown.',
  place: 'src/WeatherNotice.tsx:22:31',
};

export function resultOf(component: string, look: string, id: number, environment = 'day'): ResultSummary {
  const verdict = unusual[`${component} ${look}`] ?? 'passed';
  return {
    id,
    run: 12,
    file: `${component}.look.tsx`,
    component,
    look,
    order: id,
    hasScript: look === 'released' || look === 'booked',
    after: null,
    environment,
    repetition: 1,
    verdict,
    problem: verdict === 'failed' ? noCall : verdict === 'broken' ? noAnswer : null,
    notes: [],
    orderDependent: false,
    isUnsteady: false,
    isContradiction: false,
    took: 40 + id,
    failedStep: verdict === 'failed' ? 2 : null,
    steps: 3,
    captures: [captureOf(id, verdict)],
  };
}

/** All looks of the office, by day and by night. */
export const results: readonly ResultSummary[] = Object.entries(parts).flatMap(([component, looks], row) =>
  looks.flatMap((look, at) =>
    ['day', 'night'].map((environment, side) => resultOf(component, look, 100 + row * 20 + at * 2 + side, environment)),
  ),
);

const entryOf = (result: ResultSummary) => {
  const { file, component, look, order } = result;
  return { file, component, look, order, skip: null, ...variantOf(result) };
};

/** What the board shows of some results. */
export const boardLooks = (shown: readonly ResultSummary[]): BoardLook[] => boardOf(shown.map(entryOf));

/** As many looks as a large project has: a hundred to a component. */
export const manyResults = (count: number): ResultSummary[] =>
  Array.from({ length: count }, (_, i) => {
    const berth = Math.floor(i / 100);
    return { ...resultOf(`src/quay/Berth${berth}`, `state ${i % 100}`, 1000 + i), order: i % 100 };
  });

export const tallyOf = (shown: readonly ResultSummary[]): Tally => tally(shown.map(({ verdict }) => verdict));

export const finishedRun: RunSummary = {
  id: 12,
  status: 'finished',
  started: '2026-03-02T09:20:00.000Z',
  finished: '2026-03-02T09:20:04.200Z',
  request: usualRequest,
  planned: results.length,
  done: results.length,
  tally: tallyOf(results),
  reused: 8,
  captures: results.length,
  unstable: 0,
  engine: 'Chromium 156.0.8078.73',
  commit: '4f1d9a20c7b35e6812d0a4f9be17c3a58d2e6b71',
  branch: 'main',
  problems: [],
  skipped: [],
  notes: [],
};

export const project: ProjectInfo = {
  name: 'harbour',
  root: '/home/ada/harbour',
  version: '0.1.0',
  url: 'http://127.0.0.1:4700',
  // The pages in the console's frames are stubbed as the service is.
  stage: globalThis.location?.origin ?? '',
  live: globalThis.location?.origin ?? '',
  environments: [
    { name: 'day', viewport: [900, 640], ratio: 1, scheme: 'light', motion: 'reduce', contrast: 'no-preference' },
    { name: 'night', viewport: [900, 640], ratio: 1, scheme: 'dark', motion: 'reduce', contrast: 'no-preference' },
  ],
  engine: 'Chromium 156.0.8078.73',
  person: 'Ada',
  reasons: 'rejections',
  baselines: 'baselines',
  markAttribute: 'data-testid',
  undecided: 5,
  run: null,
  progress: noProgress,
  queued: [],
};
