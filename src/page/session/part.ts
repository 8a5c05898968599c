/** Parts: named groups of steps. */
import { step } from '../record/step.ts';

/** Groups what is done in `body`. */
export const grouped = (name: string, body: () => Promise<void>): Promise<void> =>
  step('part', name, async (current, recording) => {
    recording.enter(current);
    try {
      await body();
    } finally {
      recording.leave();
    }
  });
