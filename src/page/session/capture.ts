/** Captures: a picture and the moment that it shows, of one instant. */
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { CaptureOptions } from '../../language/script.ts';
import { ask } from '../host/host.ts';
import { settle } from '../host/settings.ts';
import { isOpaque } from '../record/opaque.ts';
import type { Recording } from '../record/recording.ts';
import { step } from '../record/step.ts';
import { allowedNow } from './allowed.ts';
import { clipOf } from './clip.ts';
import { hideMessage } from './messages.ts';
import { unnoticed } from './size.ts';
import { hoverSettled, untilStill } from './still.ts';

const taken = new Set<string>();
let kept = true;

/**
 * Forgets which captures have been taken. Those of a look that another one starts after are that look's own, and not
 * kept again.
 */
export function resetCaptures(keep: boolean): void {
  taken.clear();
  kept = keep;
}

/** How often picture and moment are taken again when the page has moved on between them. */
const mostTries = 5;

async function take(name: string, until: number, current: Step, recording: Recording): Promise<void> {
  for (let tries = 1; ; tries++) {
    const { unrest, endless } = await untilStill(until, () => recording.isOver, recording.number);
    if (unrest)
      recording.note(
        `The page had not come to rest when “${name}” was captured: ${unrest}. The picture may differ from run to run.`,
      );
    if (endless)
      recording.note(
        `Something was still going on when “${name}” was captured: ${endless}. ` +
          `It got ${until} ms of the look's time, the same in every run. To give it more, raise settle.`,
      );
    if (!kept) return;
    hideMessage();
    await hoverSettled(recording.number);
    const clip = clipOf();
    const moment = recording.moment();
    const unseen = recording.unseen();
    const allowed = allowedNow(recording);
    const beyond = clip[2] > innerWidth || clip[3] > innerHeight;
    const { number } = recording;
    const { index } = current;
    const asked = { name, clip, beyond, step: index, moment, unseen, allowed, opaque: isOpaque() };
    // Whether the moment is as approved is found out from all that led to it.
    recording.send();
    const shoot = () => ask(number, { do: 'capture', ...asked });
    await (beyond ? unnoticed(shoot) : shoot()).catch((error: Error) =>
      fail('capture-failed', { name, width: clip[2], height: clip[3], error: error.message }),
    );
    if (recording.moment() === moment || recording.isOver) return;
    if (tries < mostTries) continue;
    recording.note(`The page changed each time “${name}” was captured, so the picture and its moment may not agree.`);
    return;
  }
}

/** Takes a capture as one step of the look that runs. */
export const captured = (name: string, options: CaptureOptions = {}): Promise<void> =>
  step(
    'capture',
    `capture “${name}”`,
    (current, recording) => {
      if (taken.has(name))
        fail('bad-step', {
          what: `The capture “${name}” was already taken.`,
          remedy: 'Give each capture of a look a name of its own; “end” is taken automatically.',
        });
      if (!name.isWellFormed() || name.trim() === '' || name.length > 200)
        fail('bad-step', {
          what: 'A capture needs a name of 1 to 200 characters of valid Unicode.',
          remedy: 'For example: await capture("question")',
        });
      const { settle: wanted = settle() } = options;
      if (typeof wanted !== 'number' || !(wanted >= 0 && wanted < 1e9))
        fail('bad-step', {
          what: `The capture “${name}” has the settle ${String(wanted)}.`,
          remedy: 'Use a number of milliseconds; 0 takes what is there.',
        });
      taken.add(name);
      return take(name, wanted, current, recording);
    },
    { capture: name.slice(0, 200) },
  );
