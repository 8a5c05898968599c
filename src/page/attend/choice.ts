/**
 * Lists of options of a page in a person's hands: the browser would open them in a window of their own, which no
 * picture of the page shows. The person is asked elsewhere instead.
 */
import type { OptionList } from '../../core/sitting/sitting.ts';
import { isSelect } from '../act/element.ts';
import { goTo } from '../act/select.ts';
import { post } from '../host/host.ts';
import { native } from '../host/natives.ts';
import { recordingNow } from '../record/recording.ts';
import { isStopped, isTryingNow } from './attend.ts';

let asked: HTMLSelectElement | null = null;

const opens = new Set([' ', 'Enter', 'F4']);

/** The list of options that an event would open. */
function listOf(event: Event): HTMLSelectElement | null {
  const [first] = event.composedPath();
  const element = first instanceof Element ? first.closest('select') : null;
  if (!element || !isSelect(element) || element.multiple || element.size > 1 || element.disabled) return null;
  if (!(event instanceof KeyboardEvent)) return element;
  return opens.has(event.key) || (event.altKey && event.key === 'ArrowDown') ? element : null;
}

function ask(event: Event): void {
  if (!event.isTrusted || !isStopped() || isTryingNow()) return;
  const list = listOf(event);
  const recording = recordingNow();
  if (!list || !recording) return;
  event.preventDefault();
  list.focus();
  asked = list;
  const options = [...list.options].map(({ label, disabled }) => ({ label: label.trim(), isDisabled: disabled }));
  const choice: OptionList = { options, chosen: list.selectedIndex };
  post({ kind: 'asks', look: recording.number, choice });
}

const options = { capture: true };

/** From now on lists of options are asked for. */
export function askForChoices(): void {
  for (const type of ['mousedown', 'keydown']) native.addEventListener.call(window, type, ask, options);
}

/** Lists of options open as they do. */
export function endAsking(): void {
  asked = null;
  for (const type of ['mousedown', 'keydown']) native.removeEventListener.call(window, type, ask, options);
}

/** The person has chosen an option of the list that they were asked about last. */
export async function choose(index: number): Promise<void> {
  const list = asked;
  const recording = recordingNow();
  asked = null;
  if (list?.isConnected && recording && list.options[index]) await goTo(recording, list, index);
}
