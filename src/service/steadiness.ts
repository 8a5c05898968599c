/** Compares every round of looks with the first one, and says of each look that comes out differently where and why. */
import { createHash } from 'node:crypto';
import { lookKey } from '../core/look/look.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import { type Conditions, conditionsInWords } from '../core/steady/conditions.ts';
import { type Parting, partingOf, type Reference, referenceOf } from '../core/steady/parting.ts';

const hash = (text: string): string => createHash('sha256').update(text).digest('base64');

function inWords({ step, what, why }: Parting, look: FinishedLook, conditions: Conditions): string {
  const at = step === null ? undefined : look.timeline.steps[step];
  const place = at ? ` at step ${at.index + 1}, “${at.title}”` : '';
  return (
    `In round ${conditions.round} (${conditionsInWords(conditions)}) it came out differently from the first round` +
    `${place}: ${what}.\n${why}`
  );
}

/** Lives as long as its run. */
export class Steadiness {
  readonly #first = new Map<string, Reference>();

  /** Keeps a look of the first round; marks one of a later round that differs from it, and notes how. */
  compare(look: FinishedLook, conditions: Conditions): void {
    const key = `${lookKey(look.info.component, look.info.look)}\n${look.environment}`;
    const now = referenceOf(look, hash);
    const first = this.#first.get(key);
    if (!first) {
      this.#first.set(key, now);
      return;
    }
    const parting = partingOf(first, now);
    if (!parting) return;
    look.isUnsteady = true;
    look.notes.push(inWords(parting, look, conditions));
  }
}
