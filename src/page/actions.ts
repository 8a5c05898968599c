/** Actions: what a person does with mouse and keyboard. Input is sent by the engine, so that the page sees real, trusted events. */
import { isKey, modifierBits } from '../core/keys.ts';
import { fail, problem, ProblemError } from '../core/problem.ts';
import type { InputRequest } from '../core/wire.ts';
import { actionable, only, retry } from './actionable.ts';
import { ask } from './host.ts';
import { type Recording, step } from './record.ts';
import { patience } from './settings.ts';
import { nextTask } from './still.ts';
import { isTarget, type Target } from './target.ts';

const left = (x: number, y: number): InputRequest[] => [
  { kind: 'move', x, y, button: 'none' },
  { kind: 'down', x, y, button: 'left', clicks: 1, modifiers: 0 },
  { kind: 'up', x, y, button: 'left', clicks: 1, modifiers: 0 },
];

let pointerUsed = false;

/** Sends input and lets the page react: the handlers have run, and what they scheduled for at once has too. */
async function send(events: InputRequest[]): Promise<void> {
  if (events.some((event) => event.kind !== 'key')) pointerUsed = true;
  await ask({ do: 'input', events });
  await nextTask();
}

/** Takes the pointer out of the page, where it is when a look begins. */
export async function releasePointer(): Promise<void> {
  if (!pointerUsed) return;
  pointerUsed = false;
  await ask({ do: 'input', events: [{ kind: 'move', x: -1, y: -1, button: 'none' }] });
}

function needTarget(target: unknown, action: string): void {
  if (!isTarget(target)) fail('bad-step', { what: `${action}(…) needs a target.`, remedy: `Give it one: ${action}(the.button('Save'))` });
}

/** Clicks the middle of a target with the left button. */
export function click(target: Target): Promise<void> {
  return step('action', `click ${target}`, async (current, recording) => {
    needTarget(target, 'click');
    const { point } = await actionable(current, recording, target, { action: 'click', needsEnabled: true });
    await send(left(...point));
  });
}

/** Moves the pointer onto a target. */
export function hover(target: Target): Promise<void> {
  return step('action', `hover ${target}`, async (current, recording) => {
    needTarget(target, 'hover');
    const { point } = await actionable(current, recording, target, { action: 'pointer', needsEnabled: false });
    await send([{ kind: 'move', x: point[0], y: point[1], button: 'none' }]);
  });
}

type Editable = HTMLInputElement | HTMLTextAreaElement;

const takesText = (element: Element): boolean =>
  (element instanceof HTMLInputElement &&
    !['checkbox', 'radio', 'button', 'submit', 'reset', 'file', 'image', 'range', 'color', 'hidden'].includes(element.type)) ||
  element instanceof HTMLTextAreaElement ||
  (element as HTMLElement).isContentEditable === true;

const isFocused = (element: Element): boolean => (element.getRootNode() as Document | ShadowRoot).activeElement === element;

/** Clicks into a text field unless it has the focus already, and puts the caret at its end. */
async function enter(current: Parameters<typeof actionable>[0], recording: Recording, target: Target, action: string): Promise<Element> {
  const { element, point } = await actionable(current, recording, target, { action, needsEnabled: true });
  if (!takesText(element)) throw new ProblemError(problem('target-not-editable', { target: String(target) }));
  if (!isFocused(element)) await send(left(...point));
  if (!isFocused(element)) (element as HTMLElement).focus();
  const field = element as Editable;
  // Not every kind of input lets its caret be set; in those a click past the text has put it at the end.
  try {
    field.setSelectionRange?.(field.value.length, field.value.length);
  } catch {}
  return element;
}

/** Types a text key by key, behind what is there already. */
export function type(target: Target, text: string): Promise<void> {
  return step('action', `type “${text}” into ${target}`, async (current, recording) => {
    needTarget(target, 'type');
    await enter(current, recording, target, 'typing');
    await send([...String(text)].map((key) => ({ kind: 'key', key: key === '\n' ? 'Enter' : key, modifiers: 0 })));
  });
}

/** Empties a text field: selects everything and deletes it. */
export function clear(target: Target): Promise<void> {
  return step('action', `clear ${target}`, async (current, recording) => {
    needTarget(target, 'clear');
    await enter(current, recording, target, 'clearing');
    await send([
      { kind: 'key', key: 'a', modifiers: modifierBits.Control },
      { kind: 'key', key: 'Backspace', modifiers: 0 },
    ]);
  });
}

function parseKeys(keys: string): InputRequest {
  // The plus sign itself may be the key: `+` or `Control++`.
  const parts = keys === '+' ? ['+'] : keys.endsWith('++') ? [...keys.slice(0, -2).split('+'), '+'] : keys.split('+');
  const key = parts.pop() ?? '';
  let bits = 0;
  for (const name of parts)
    bits |=
      modifierBits[name as keyof typeof modifierBits] ??
      fail('bad-step', { what: `“${name}” is not a modifier key.`, remedy: 'Use Control, Shift, Alt or Meta, joined with +, as in Control+Enter.' });
  if (!isKey(key)) fail('bad-step', { what: `“${key}” is not a key.`, remedy: 'Use a character or a name such as Enter, Escape, Tab, ArrowDown, Home, F2.' });
  return { kind: 'key', key, modifiers: bits };
}

/** Presses a key, such as `Enter` or `Control+a`, where the focus is, or on a target, which gets the focus first. */
export function press(keys: string): Promise<void>;
export function press(target: Target, keys: string): Promise<void>;
export function press(...args: [string] | [Target, string]): Promise<void> {
  const [target, keys] = args.length === 2 ? args : [null, args[0]];
  return step('action', `press ${keys}${target ? ` on ${target}` : ''}`, async (current, recording) => {
    const event = parseKeys(String(keys));
    if (target) {
      needTarget(target, 'press');
      const { element } = await actionable(current, recording, target, { action: 'key', needsEnabled: true });
      if (!isFocused(element)) (element as HTMLElement).focus();
    }
    await send([event]);
  });
}

/** Chooses an option of a `select` by its label or value, with the keyboard, as a person would without a mouse. */
export function select(target: Target, option: string): Promise<void> {
  return step('action', `select “${option}” in ${target}`, async (current, recording) => {
    needTarget(target, 'select');
    await actionable(current, recording, target, { action: 'choice', needsEnabled: true });
    const { element, index } = await retry(current, () => {
      const found = only(target, patience());
      if (!(found instanceof HTMLSelectElement))
        return fail('bad-step', {
          what: `${target} is not a select element.`,
          remedy: 'For a list box made of other elements, click it and then click the option.',
        });
      const options = Array.from(found.options);
      const wanted = options.findIndex((one) => !one.disabled && (one.label.trim() === option || one.value === option));
      if (wanted < 0)
        fail(
          'option-missing',
          { target: String(target), option },
          { found: options.map((one) => `“${one.label.trim()}”${one.disabled ? ' (disabled)' : ''}`) },
        );
      return { element: found, index: wanted };
    });
    element.focus();
    const usable = Array.from(element.options, (one, i) => (one.disabled ? -1 : i)).filter((i) => i >= 0);
    const moves = usable.indexOf(index) - usable.indexOf(element.selectedIndex);
    await send(Array.from({ length: Math.abs(moves) }, () => ({ kind: 'key', key: moves > 0 ? 'ArrowDown' : 'ArrowUp', modifiers: 0 })));
  });
}
