/** Actions: what a person does with mouse and keyboard. */
import { portOf } from './port.ts';
import type { Target } from './target.ts';

/** Clicks the middle of a target with the left button. */
export const click = (target: Target): Promise<void> => portOf('click').act({ do: 'click', target });

/** Moves the pointer onto a target. */
export const hover = (target: Target): Promise<void> => portOf('hover').act({ do: 'hover', target });

/** Types a text key by key, behind what is there already. */
export const type = (target: Target, text: string): Promise<void> =>
  portOf('type').act({ do: 'type', target, text: String(text) });

/** Empties a text field: selects everything and deletes it. */
export const clear = (target: Target): Promise<void> => portOf('clear').act({ do: 'clear', target });

/** Presses a key, such as `Enter` or `Control+a`, where the focus is, or on a target, which gets the focus first. */
export function press(keys: string): Promise<void>;
export function press(target: Target, keys: string): Promise<void>;
export function press(...args: [string] | [Target, string]): Promise<void> {
  const [target, keys] = args.length === 2 ? args : [null, args[0]];
  return portOf('press').act({ do: 'press', target, keys: String(keys) });
}

/** Chooses an option of a `select` by its label or value, with the keyboard, as a person would without a mouse. */
export const select = (target: Target, option: string): Promise<void> =>
  portOf('select').act({ do: 'select', target, option: String(option) });
