/** Parts and captures: what gives a script its shape. */
import { fail } from '../core/problem.ts';
import type { Box } from '../core/timeline.ts';
import { finishAnimations } from './animations.ts';
import { traffic } from './answers.ts';
import { ask } from './host.ts';
import { recordingOf, step } from './record.ts';
import { patience } from './settings.ts';
import { untilStill } from './still.ts';

/** Names a group of steps. */
export function part(name: string, body: () => Promise<void>): Promise<void> {
  return step('part', name, async (current, recording) => {
    recording.enter(current);
    try {
      await body();
    } finally {
      recording.leave();
    }
  });
}

/** Space left around what is captured, for shadows and outlines. */
const margin = 16;

/** From the page's top left corner to the far edge of everything that can be seen in it. */
function clipOf(): Box {
  let right = 0;
  let bottom = 0;
  for (const element of document.body.querySelectorAll('*')) {
    if (element.parentElement === document.body && element.id === 'look') continue;
    const box = element.getBoundingClientRect();
    if (box.width === 0 || box.height === 0) continue;
    if (box.right + window.scrollX > right && element.checkVisibility()) right = box.right + window.scrollX;
    if (box.bottom + window.scrollY > bottom && element.checkVisibility()) bottom = box.bottom + window.scrollY;
  }
  const root = document.documentElement;
  const width = Math.min(Math.ceil(right) + margin, Math.max(window.innerWidth, root.scrollWidth));
  const height = Math.min(Math.ceil(bottom) + margin, Math.max(window.innerHeight, root.scrollHeight));
  return [0, 0, Math.max(width, margin), Math.max(height, margin)];
}

const taken = new Set<string>();

let kept = true;

/** Forgets which captures have been taken. Those of a look that another one starts after are that look's own, and not kept again. */
export function resetCaptures(keep: boolean): void {
  taken.clear();
  kept = keep;
}

/** Takes a screenshot under a name, once the page is still. Every look ends with one of its own, `end`. */
export function capture(name: string): Promise<void> {
  return step(
    'capture',
    `capture “${name}”`,
    async (current) => {
      if (taken.has(name))
        fail('bad-step', {
          what: `The capture “${name}” was taken already.`,
          remedy: 'Give each capture of a look a name of its own; “end” is taken by itself.',
        });
      taken.add(name);
      const recording = recordingOf('capture');
      if (!(await untilStill(patience(), traffic)))
        recording.notes.push(`The page had not come to rest when “${name}” was captured, so the picture may differ from run to run.`);
      finishAnimations();
      if (!kept) return;
      const clip = clipOf();
      const beyond = clip[2] > window.innerWidth || clip[3] > window.innerHeight;
      await ask({ do: 'capture', name, clip, beyond, step: current.index, moment: recording.moment() }).catch((error: Error) =>
        fail('capture-failed', { name, width: clip[2], height: clip[3], error: error.message }),
      );
    },
    { capture: name },
  );
}
