/** What was recorded of a look of a harbour office, moment by moment, as the service tells it. */
import type { Moment, Patch } from '../../core/moment/moment.ts';
import type { Step, Timeline } from '../../core/timeline/timeline.ts';
import { results } from './results.ts';

const base: Moment = {
  root: 1,
  nodes: {
    1: { tag: 'html', kids: [2] },
    2: { tag: 'body', kids: [3] },
    3: { tag: 'button', kids: [4] },
    4: { text: 'Release berth' },
  },
  sheets: {},
  view: { width: 900, height: 640, scroll: [0, 0], hover: [], focus: null, focusVisible: false, sheets: [] },
};

const reads = (text: string): Patch => ({ nodes: { 4: { text } } });

const step = (index: number, kind: Step['kind'], title: string, at: number, took: number): Step => ({
  index,
  kind,
  title,
  parent: null,
  at,
  took,
  clock: [at, at + took],
  outcome: 'passed',
  before: index,
  after: index + 1,
});

const source = `/** A berth and who lies there. */

import { click, ensure, looks, spy, the } from 'sguardo/react';
import { BerthCard } from './BerthCard';

const ship = 'Alba';

export default looks(BerthCard, {
  props: { berth: 'C-14', onRelease: spy() },
  states: {
    free: {},
    taken: { props: { ship } },
    released: {
      props: { ship },
      async script({ props }) {
        await click(the.button('Release berth'));
        // The office answers in its own time.
        await ensure(props.onRelease).wasCalledWith('C-14');
      },
    },
  },
});
`;

const file = 'src/BerthCard.look.tsx';

const mounted = step(0, 'mount', 'mount BerthCard', 0, 14);

const clicked: Step = {
  ...step(1, 'action', 'click the button “Release berth”', 14, 32),
  target: { node: 3, box: [20, 20, 120, 32], description: 'button “Release berth”' },
  pointer: [80, 36],
  source: { file, line: 16, column: 15 },
};

const checked: Step = {
  ...step(2, 'check', 'ensure onRelease was called with "C-14"', 46, 2000),
  outcome: 'failed',
  tries: 42,
  saw: ['It was not called.'],
  source: { file, line: 18, column: 15 },
};

/** A timeline with something in every lane. */
export const timeline: Timeline = {
  steps: [mounted, clicked, checked],
  marks: [
    { lane: 'dom', at: 14, took: null, title: '4 changes', level: 'info' },
    { lane: 'network', at: 48, took: 120, title: 'DELETE /api/berths/C-14, 503', level: 'error' },
    { lane: 'console', at: 170, took: null, title: 'The office cannot be reached', level: 'warning' },
    { lane: 'spies', at: 400, took: null, title: 'onReleaseFailed("C-14")', level: 'info' },
  ],
  taken: [0, 14, 46, 2046],
  base,
  patches: [{}, reads('Releasing…'), reads('Release berth')],
  assets: {},
  source,
};

/** As of a look without a script: it was mounted, and that is all. */
export const shortTimeline: Timeline = {
  ...timeline,
  steps: [mounted],
  marks: timeline.marks.slice(0, 1),
  taken: [0, 14],
  patches: [{}],
};

/** The line of the first click, counted from 1. */
const firstClick = 16;

function longSource(count: number): string {
  const lines = source.split('\n');
  const clicks = Array.from({ length: count - 1 }, (_, i) => `        await click(the.button('Berth ${i + 1}'));`);
  return [...lines.slice(0, firstClick - 1), ...clicks, ...lines.slice(firstClick + 2)].join('\n');
}

/** As of a script with very many clicks, one after the other. */
export const longTimeline = (count: number): Timeline => ({
  ...timeline,
  source: longSource(count),
  steps: [
    mounted,
    ...Array.from({ length: count - 1 }, (_, i): Step => {
      const at = 14 + i * 32;
      const title = `click the button “Berth ${i + 1}”`;
      return {
        ...clicked,
        ...step(i + 1, 'action', title, at, 32),
        source: { file, line: firstClick + i, column: 15 },
      };
    }),
  ],
  marks: Array.from({ length: count }, (_, i) => ({ ...timeline.marks[0]!, at: 14 + i * 32 })),
  taken: Array.from({ length: count + 1 }, (_, i) => (i === 0 ? 0 : 14 + (i - 1) * 32)),
  patches: Array.from({ length: count }, (_, i) => reads(`Berth ${i}`)),
});

const idOf = (verdict: string): number => results.find((one) => one.verdict === verdict && one.file === file)!.id;

/** The result that failed, and one that has passed. */
export const [failedId, passedId] = [idOf('failed'), idOf('passed')];
