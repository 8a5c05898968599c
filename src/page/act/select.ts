/**
 * Chooses options: of a select element with the keyboard, as a person would without a mouse; of one that takes several,
 * and of list boxes made of other elements, with the mouse.
 */
import { modifierBits } from '../../core/input/keys.ts';
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { InputRequest } from '../../core/wire/wire.ts';
import type { Action } from '../../language/command.ts';
import type { Target } from '../../language/target.ts';
import { native } from '../host/natives.ts';
import type { Recording } from '../record/recording.ts';
import { actionable } from './actionable.ts';
import { isSelect } from './element.ts';
import { holding } from './held.ts';
import { clickAt, send } from './input.ts';
import { chooseInList, isList, opensList } from './listbox.ts';
import { retry } from './retry.ts';
import { pointOf } from './scroll.ts';

const isEnabled = (option: HTMLOptionElement): boolean =>
  !option.disabled && !(option.closest('optgroup')?.disabled ?? false);

/** Only what is shown in the open list can be chosen. */
const isUsable = (option: HTMLOptionElement): boolean => isEnabled(option) && !option.hidden;

const labelOf = (option: HTMLOptionElement): string => option.label.trim();

function indexOf(target: Target, found: HTMLSelectElement, wanted: string): number {
  const options = Array.from(found.options).filter((one) => !one.hidden);
  const named = options.filter((one) => labelOf(one) === wanted || one.value === wanted);
  const usable = named.find(isEnabled);
  if (usable) return usable.index;
  const shown = options.map((one) => `“${labelOf(one)}”${isEnabled(one) ? '' : ' (disabled)'}`);
  const code = named.length > 0 ? 'option-disabled' : 'option-missing';
  return fail(code, { target: String(target), option: wanted }, { found: shown });
}

/** Every key press on the way to an option changes the element; its page hears only of the one that gets there. */
function quietly(element: HTMLSelectElement, wanted: number): { gotThere(): boolean; end(): void } {
  let gotThere = false;
  const hush = (event: Event): void => {
    if (event.target !== element) return;
    if (element.selectedIndex === wanted) gotThere = true;
    else event.stopImmediatePropagation();
  };
  for (const type of ['input', 'change']) native.addEventListener.call(window, type, hush, { capture: true });
  return {
    gotThere: () => gotThere,
    end() {
      for (const type of ['input', 'change']) native.removeEventListener.call(window, type, hush, { capture: true });
    },
  };
}

/** Goes to an option with the arrow keys. Resolves with true when the page has heard that it was chosen. */
export async function goTo(recording: Recording, element: HTMLSelectElement, index: number): Promise<boolean> {
  element.focus();
  const usable = Array.from(element.options, (one, i) => (isUsable(one) ? i : -1)).filter((i) => i >= 0);
  const from = usable.findIndex((i) => i >= element.selectedIndex);
  const startsBetween = usable[from] !== element.selectedIndex;
  const to = usable.indexOf(index);
  // A selected option that is disabled counts for no step: the first press leads to its neighbour.
  const moves = element.selectedIndex < 0 ? to + 1 : to - from + (startsBetween && to >= from ? 1 : 0);
  const press: InputRequest = { kind: 'key', key: moves > 0 ? 'ArrowDown' : 'ArrowUp', modifiers: 0 };
  const way = quietly(element, index);
  try {
    await send(
      recording.number,
      Array.from({ length: Math.abs(moves) }, () => press),
    );
  } finally {
    way.end();
  }
  return way.gotThere();
}

/** Clicks options of a list that takes several until exactly the wanted ones are chosen. */
async function toggle(recording: Recording, element: HTMLSelectElement, wanted: ReadonlySet<number>): Promise<void> {
  for (const [index, option] of Array.from(element.options).entries()) {
    if (option.selected === wanted.has(index)) continue;
    option.scrollIntoView({ block: 'nearest', behavior: 'instant' });
    await send(recording.number, holding(modifierBits.Control, clickAt(pointOf(option))));
  }
}

async function selectNative(
  current: Step,
  recording: Recording,
  target: Target,
  element: HTMLSelectElement,
  options: readonly string[],
): Promise<void> {
  if (options.length !== 1 && !element.multiple) fail('list-single', { target: String(target), count: options.length });
  const indices = await retry(current, recording, () => options.map((option) => indexOf(target, element, option)));
  if (element.multiple) await toggle(recording, element, new Set(indices));
  // Where the page has heard of the choice and goes by another value all the same, a person has chosen, too.
  else if (await goTo(recording, element, indices[0]!)) return;
  if (!element.isConnected || element.multiple) return;
  const shown = element.selectedOptions[0];
  const [option] = options;
  if (shown?.label.trim() !== option && shown?.value !== option)
    fail('option-not-chosen', { target: String(target), option, shown: shown ? labelOf(shown) : 'nothing' });
}

/**
 * @throws ProblemError `option-missing`, `option-disabled`, `option-not-chosen`, and whatever stands in the way of the
 *   element
 */
export async function selectOptions(
  current: Step,
  recording: Recording,
  { target, options }: Extract<Action, { do: 'select' }>,
): Promise<void> {
  const found = await actionable(current, recording, target, { action: 'choice', needsEnabled: true });
  const { element } = found;
  if (isSelect(element)) return selectNative(current, recording, target, element, options);
  if (isList(element) || opensList(element)) return chooseInList(current, recording, target, found, options);
  return fail('bad-step', {
    what: `${target} is neither a select element, a list box nor a combo box.`,
    remedy: 'Give what opens its list the role combobox, or aria-haspopup="listbox"; or click it, then its option.',
  });
}
