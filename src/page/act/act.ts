/** Carries out actions. */
import { modifierBits } from '../../core/input/keys.ts';
import { slippedNote } from '../../core/problem/notes.ts';
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { InputRequest } from '../../core/wire/wire.ts';
import type { Action } from '../../language/command.ts';
import { isTarget } from '../../language/target.ts';
import { actionInWords } from '../../language/words.ts';
import { spies } from '../../language/spy.ts';
import { actionBegins } from '../check/doubt.ts';
import { ask } from '../host/host.ts';
import { routesNow } from '../network/routes.ts';
import type { Recording } from '../record/recording.ts';
import { step } from '../record/step.ts';
import { nextFrame } from '../time/frame.ts';
import { framesCome, soonestComes } from '../session/hand.ts';
import { runDue } from '../time/time.ts';
import { actionable } from './actionable.ts';
import { dragTo } from './drag.ts';
import { enterField, focus, loseFocus, pickValue } from './field.ts';
import { pasteInto, uploadFiles } from './files.ts';
import { pinchAt, touchAt } from './fingers.ts';
import { bitsOf, holding } from './held.ts';
import { clickAt, send, sendEach } from './input.ts';
import { pressKeys } from './keyboard.ts';
import { checkOptions, checkScale, checkSize } from './options.ts';
import { goingAway, settingOut } from './pointer.ts';
import { selectOptions } from './select.ts';
import { slippedOver, watchSlip } from './slip.ts';
import { scrollTo } from './wheel.ts';

type Kind = Action['do'];
type Does<K extends Kind> = (
  current: Step,
  recording: Recording,
  action: Extract<Action, { do: K }>,
) => Promise<unknown>;

/** Actions that need no target. */
const free: readonly Kind[] = ['unhover', 'resize', 'drag'];
const mayBeFree: readonly Kind[] = ['press', 'paste', 'blur'];

function needTarget(action: Action): void {
  const name = action.do;
  if (free.includes(name)) return;
  const target = 'target' in action ? action.target : null;
  if (isTarget(target) || (target === null && mayBeFree.includes(name))) return;
  fail('bad-step', { what: `${name}(…) needs a target.`, remedy: `Give it one: ${name}(the.button('Save'))` });
}

function tellSlip(current: Step, recording: Recording, target: string): void {
  const over = slippedOver();
  if (over === null) return;
  const note = slippedNote(target, over);
  recording.amend(current, { doubt: note });
  recording.note(note);
}

const keyFor = (character: string): InputRequest => ({
  kind: 'key',
  key: character === '\n' ? 'Enter' : character,
  modifiers: 0,
});

const carryOut: { [K in Kind]: Does<K> } = {
  async click(current, recording, { target, options }) {
    checkOptions('click', options);
    const { at } = options;
    const { element, point } = await actionable(current, recording, target, {
      action: 'click',
      needsEnabled: true,
      at,
    });
    watchSlip(element);
    await send(recording.number, holding(bitsOf(options.holding), clickAt(point, options)));
    tellSlip(current, recording, String(target));
  },
  async hover(current, recording, { target, options }) {
    checkOptions('hover', options);
    const purpose = { action: 'pointer', needsEnabled: false, at: options.at };
    const { point } = await actionable(current, recording, target, purpose);
    const there: InputRequest = { kind: 'move', x: point[0], y: point[1], button: 'none', modifiers: 0 };
    return sendEach(recording.number, [...settingOut(), there]);
  },
  unhover: (_, { number }) => sendEach(number, goingAway()),
  focus: (current, recording, { target }) => focus(current, recording, target),
  blur: (current, recording, { target }) => loseFocus(current, recording, target),
  async type(current, recording, { target, text }) {
    const field = await enterField(current, recording, target, 'typing');
    if (pickValue(field, target, text)) return runDue();
    return send(recording.number, [...text].map(keyFor));
  },
  async clear(current, recording, { target }) {
    const field = await enterField(current, recording, target, 'clearing');
    if (pickValue(field, target, '')) return runDue();
    return send(recording.number, [
      ...holding(modifierBits.Control, [{ kind: 'key', key: 'a', modifiers: 0 }]),
      { kind: 'key', key: 'Backspace', modifiers: 0 },
    ]);
  },
  async press(current, recording, action) {
    checkOptions('press', action.options);
    // Nobody presses a key in the frame of a click, or in the next: by then the focus may have been moved.
    await soonestComes();
    await framesCome();
    if (action.target) await focus(current, recording, action.target);
    return pressKeys(recording, action);
  },
  select: selectOptions,
  drag(current, recording, action) {
    checkOptions('drag', action.options);
    return dragTo(current, recording, action);
  },
  scroll(current, recording, action) {
    checkOptions('scroll', action.way);
    return scrollTo(current, recording, action);
  },
  upload: uploadFiles,
  paste: pasteInto,
  touch(current, recording, action) {
    checkOptions('touch', action.options);
    return touchAt(current, recording, action);
  },
  pinch(current, recording, action) {
    checkScale(action.scale);
    return pinchAt(current, recording, action);
  },
  async resize(_, { number }, { size }) {
    checkSize(size);
    await ask(number, { do: 'surround', with: { viewport: [size[0], size[1]] } });
    await nextFrame();
  },
};

/** What an action says, also one that was given what it cannot take: that is told by its step. */
function titleOf(action: Action): string {
  try {
    return actionInWords(action);
  } catch {
    return `${action.do}(…)`;
  }
}

/** Carries out an action as one step of the look that runs. */
export const act = (action: Action): Promise<void> =>
  step('action', titleOf(action), async (current, recording) => {
    needTarget(action);
    actionBegins(current.title, [...spies(), ...routesNow()]);
    await (carryOut[action.do] as Does<Kind>)(current, recording, action as never);
  });
