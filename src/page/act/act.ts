/** Carries out actions. */
import { modifierBits } from '../../core/input/keys.ts';
import { fail } from '../../core/problem/problem.ts';
import type { Step } from '../../core/timeline/timeline.ts';
import type { InputRequest } from '../../core/wire/wire.ts';
import type { Action } from '../../language/command.ts';
import { isTarget } from '../../language/target.ts';
import { actionInWords } from '../../language/words.ts';
import type { Recording } from '../record/recording.ts';
import { step } from '../record/step.ts';
import { runDue } from '../time/time.ts';
import { actionable } from './actionable.ts';
import { enterField, focus, pickValue } from './field.ts';
import { clickAt, parseKeys, send } from './input.ts';
import { selectOption } from './select.ts';

function needTarget({ do: name, target }: Action): void {
  if (!isTarget(target) && !(name === 'press' && target === null))
    fail('bad-step', { what: `${name}(…) needs a target.`, remedy: `Give it one: ${name}(the.button('Save'))` });
}

const keyFor = (character: string): InputRequest => ({
  kind: 'key',
  key: character === '\n' ? 'Enter' : character,
  modifiers: 0,
});

async function perform(action: Action, current: Step, recording: Recording): Promise<void> {
  needTarget(action);
  const { number } = recording;
  switch (action.do) {
    case 'click': {
      const { point } = await actionable(current, recording, action.target, { action: 'click', needsEnabled: true });
      return send(number, clickAt(point));
    }
    case 'hover': {
      const purpose = { action: 'pointer', needsEnabled: false };
      const { point } = await actionable(current, recording, action.target, purpose);
      return send(number, [{ kind: 'move', x: point[0], y: point[1], button: 'none' }]);
    }
    case 'type': {
      const field = await enterField(current, recording, action.target, 'typing');
      if (pickValue(field, action.target, action.text)) return runDue();
      return send(number, [...action.text].map(keyFor));
    }
    case 'clear': {
      const field = await enterField(current, recording, action.target, 'clearing');
      if (pickValue(field, action.target, '')) return runDue();
      return send(number, [
        { kind: 'key', key: 'a', modifiers: modifierBits.Control },
        { kind: 'key', key: 'Backspace', modifiers: 0 },
      ]);
    }
    case 'press': {
      const event = parseKeys(action.keys);
      if (action.target) {
        await focus(current, recording, action.target);
      }
      return send(number, [event]);
    }
    case 'select':
      return selectOption(current, recording, action.target, action.option);
  }
}

/** Carries out an action as one step of the look that runs. */
export const act = (action: Action): Promise<void> =>
  step('action', actionInWords(action), (current, recording) => perform(action, current, recording));
