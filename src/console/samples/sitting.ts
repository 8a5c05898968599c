/** A look that is run for a person, as the service tells it. */
import type { SittingState } from '../../core/sitting/sitting.ts';
import { noCall, project } from './results.ts';
import { failedId, timeline } from './timeline.ts';

/** It has stopped where a check failed, and two lines were tried. */
export const stopped: SittingState = {
  id: 7,
  file: 'src/BerthCard.look.tsx',
  component: 'src/BerthCard',
  look: 'released',
  environment: 'day',
  viewport: project.environments[0]!.viewport,
  headed: false,
  result: failedId,
  phase: 'stopped',
  stop: {
    why: 'failure',
    number: 2,
    step: 2,
    moment: 3,
    problem: noCall,
  },
  steps: timeline.steps,
  lines: [
    { text: "the.button('Release berth').name", value: '“Release berth”', problem: null, steps: 0 },
    { text: "await click(the.button('Release berth'))", value: null, problem: null, steps: 1 },
  ],
  isTimeRunning: false,
  isRecording: false,
  choice: null,
  parted: null,
  problem: null,
};

/** Its page is on the way. */
export const starting: SittingState = { ...stopped, phase: 'starting', stop: null, steps: [], lines: [] };

/** It has come to its end, and its page is gone. */
export const over: SittingState = { ...stopped, phase: 'over', stop: null };

/** It has not come to where the run did. */
export const parted: SittingState = {
  ...stopped,
  parted: { what: 'After step 2 the page is not as it was recorded.', lines: ['button: “Release berth” → “Released”'] },
};
