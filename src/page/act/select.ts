/** Chooses an option of a select element with the keyboard, as a person would without a mouse. */
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { InputRequest } from '../../core/wire/wire.ts';
import type { Target } from '../../language/target.ts';
import { native } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';
import { actionable } from './actionable.ts';
import { send } from './input.ts';
import { only, retry } from './retry.ts';

const isUsable = (option: HTMLOptionElement): boolean =>
  !option.disabled && !(option.closest('optgroup')?.disabled ?? false) && !option.hidden;

const labelOf = (option: HTMLOptionElement): string => option.label.trim();

function indexOf(target: Target, found: HTMLSelectElement, wanted: string): number {
  const options = Array.from(found.options);
  const index = options.findIndex((one) => isUsable(one) && (labelOf(one) === wanted || one.value === wanted));
  if (index >= 0) return index;
  const shown = options.map((one) => `“${labelOf(one)}”${isUsable(one) ? '' : ' (disabled)'}`);
  return fail('option-missing', { target: String(target), option: wanted }, { found: shown });
}

/** Every key press on the way to an option changes the element; its page hears only of the one that gets there. */
function quietly(element: HTMLSelectElement, wanted: number): () => void {
  const hush = (event: Event): void => {
    if (event.target === element && element.selectedIndex !== wanted) event.stopImmediatePropagation();
  };
  for (const type of ['input', 'change']) native.addEventListener.call(window, type, hush, { capture: true });
  return () => {
    for (const type of ['input', 'change']) native.removeEventListener.call(window, type, hush, { capture: true });
  };
}

/** @throws ProblemError `option-missing`, `option-not-chosen`, and whatever stands in the way of the element */
export async function selectOption(step: Step, recording: Recording, target: Target, option: string): Promise<void> {
  await actionable(step, recording, target, { action: 'choice', needsEnabled: true });
  const { element, index } = await retry(step, recording, () => {
    const found = only(target);
    if (!(found instanceof HTMLSelectElement))
      return fail('bad-step', {
        what: `${target} is not a select element.`,
        remedy: 'For a list box made of other elements, click it and then click the option.',
      });
    return { element: found, index: indexOf(target, found, option) };
  });
  element.focus();
  const usable = Array.from(element.options, (one, i) => (isUsable(one) ? i : -1)).filter((i) => i >= 0);
  const from = usable.findIndex((i) => i >= element.selectedIndex);
  const startsBetween = usable[from] !== element.selectedIndex;
  const to = usable.indexOf(index);
  // A selected option that is disabled counts for no step: the first press leads to its neighbour.
  const moves = element.selectedIndex < 0 ? to + 1 : to - from + (startsBetween && to >= from ? 1 : 0);
  const press: InputRequest = { kind: 'key', key: moves > 0 ? 'ArrowDown' : 'ArrowUp', modifiers: 0 };
  const loud = quietly(element, index);
  try {
    await send(
      recording.number,
      Array.from({ length: Math.abs(moves) }, () => press),
    );
  } finally {
    loud();
  }
  const shown = element.selectedOptions[0];
  if (element.isConnected && shown?.label.trim() !== option && shown?.value !== option)
    fail('option-not-chosen', { target: String(target), option, shown: shown ? labelOf(shown) : 'nothing' });
}
