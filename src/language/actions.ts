/** Actions: what a person does with mouse, keyboard and fingers. */
import type { Amount, Carried, ClickOptions, DragOptions, PressOptions, Side, Spot, TouchOptions } from './command.ts';
import * as given from './given.ts';
import { taking } from './given.ts';
import { portOf } from './port.ts';
import { isTarget, type Target } from './target.ts';

/**
 * Clicks the middle of a target with the left button; `button`, `holding: 'Shift'`, `at: [x, y]` from its top left
 * corner and `times: 2` make it another click.
 */
export const click = taking(
  2,
  'click',
  (target: Target, options: ClickOptions = {}): Promise<void> => portOf('click').act({ do: 'click', target, options }),
);

/** Moves the pointer onto a target; `at: [x, y]` counts from its top left corner. */
export const hover = taking(
  2,
  'hover',
  (target: Target, options: Spot = {}): Promise<void> => portOf('hover').act({ do: 'hover', target, options }),
);

/** Moves the pointer away from everything. */
export const unhover = taking(0, 'unhover', (): Promise<void> => portOf('unhover').act({ do: 'unhover' }));

/** Gives a target the focus, as Tab would. */
export const focus = taking(
  1,
  'focus',
  (target: Target): Promise<void> => portOf('focus').act({ do: 'focus', target }),
);

/** Takes the focus from a target, or from whatever has it. */
export const blur = taking(
  1,
  'blur',
  (target: Target | null = null): Promise<void> => portOf('blur').act({ do: 'blur', target }),
);

/** What can be typed: numbers are typed as they are written. */
const typed = {
  fits: (value: unknown) => typeof value === 'string' || typeof value === 'number',
  wanted: "a text or a number: type(the.field('Draught'), '4.2')",
};

const isLabel = (value: unknown): boolean => ['string', 'number'].includes(typeof value);

/** What can be chosen. */
const chosen: given.Rule = {
  fits: (value) => (Array.isArray(value) ? value.every(isLabel) : isLabel(value)),
  wanted: "the label of an option, or a list of them: select(the.combobox('Berth'), 'C-14')",
};

/**
 * Types a text key by key: behind what is there already, or over what is selected. Where keys were pressed in the field
 * last, it goes on from there.
 */
export const type = taking(2, 'type', (target: Target, text: string): Promise<void> => {
  given.need('type(…)', text, typed);
  return portOf('type').act({ do: 'type', target, text: String(text) });
});

/** Empties a text field: selects everything and deletes it. */
export const clear = taking(
  1,
  'clear',
  (target: Target): Promise<void> => portOf('clear').act({ do: 'clear', target }),
);

/**
 * Presses a key, such as `Enter` or `Control+a`, where the focus is, or on a target, which gets the focus first;
 * several times with `times`, or held down for so many milliseconds of the look's time with `held`.
 */
export function press(keys: string, options?: PressOptions): Promise<void>;
export function press(target: Target, keys: string, options?: PressOptions): Promise<void>;
export function press(...args: [string | Target, (string | PressOptions)?, PressOptions?]): Promise<void> {
  const [first, second, third] = args;
  given.needNoMore('press(…)', args, isTarget(first) ? 3 : 2);
  const keys = isTarget(first) ? second : first;
  given.need('press(…)', keys, given.text("press('Enter'), or press(the.field('Draught'), 'Enter')"));
  if (!isTarget(first))
    return portOf('press').act({
      do: 'press',
      target: null,
      keys: String(first),
      options: (second ?? {}) as PressOptions,
    });
  return portOf('press').act({ do: 'press', target: first, keys: String(second), options: third ?? {} });
}

/** Holds keys down, such as `Shift` or `Control+Shift`, while `body` does something with the mouse. */
export const hold = taking(2, 'hold', (keys: string, body: () => Promise<void>): Promise<void> => {
  given.need(`hold('${keys}')`, body, given.body("hold('Shift', async () => { … })"));
  return portOf('hold').hold(String(keys), body);
});

/**
 * Chooses an option of a `select`, a list box or a combo box by its label or value; a list chooses exactly those, where
 * several can be chosen.
 */
export const select = taking(
  2,
  'select',
  (target: Target, option: string | readonly string[]): Promise<void> => {
    given.need('select(…)', option, chosen);
    return portOf('select').act({ do: 'select', target, options: [option].flat().map(String) });
  },
  "Give several options as a list: select(the.combobox('Berth'), ['C-14', 'C-15']).",
);

/** Where something can be dragged. */
const dropped: given.Rule = {
  fits: (value) => isTarget(value) || given.amount.fits((value as { by?: unknown } | null | undefined)?.by),
  wanted: "a target, or how far: drag(the.listitem('Alba'), the.region('Moored')), or { by: [40, 0] }",
};

/**
 * Drags a target with the mouse onto another one, or `{ by: [x, y] }`; or drops `{ files, text, html }` from outside
 * on a target. What the page lets be dragged (HTML drag and drop) is dropped there. `held` rests there before letting
 * go.
 */
export const drag = taking(
  3,
  'drag',
  (what: Target | Carried, to: Target | { by: Amount }, options: DragOptions = {}): Promise<void> => {
    given.need('drag(…)', to, dropped);
    if (!isTarget(to)) given.needKnown('What drag(…) was given', to, ['by']);
    return portOf('drag').act({ do: 'drag', what, to, options });
  },
);

/** Scrolls a target into view, or what it lies in with the wheel: `{ by: [x, y] }`, `{ to: 'bottom' }`. */
export const scroll = taking(
  2,
  'scroll',
  (target: Target, way: { by?: Amount; to?: Side } = {}): Promise<void> =>
    portOf('scroll').act({ do: 'scroll', target, way }),
);

/**
 * Chooses files in the chooser that a click on the target opens: a `File`, or the path of one of the project's from its
 * root.
 */
export const upload = taking(
  2,
  'upload',
  (target: Target, files: File | string | readonly (File | string)[]): Promise<void> =>
    portOf('upload').act({ do: 'upload', target, files: [files].flat() }),
  'Give several files as a list: upload(target, [first, second]).',
);

/** Pastes a text, or `{ text, html, files: [a PNG] }`, where the focus is or into a target. */
export function paste(what: string | Carried): Promise<void>;
export function paste(target: Target, what: string | Carried): Promise<void>;
export function paste(...args: [string | Carried | Target, (string | Carried)?]): Promise<void> {
  const [target, what] = isTarget(args[0]) ? [args[0], args[1]] : [null, args[0]];
  given.needNoMore('paste(…)', args, target === null ? 1 : 2, 'Give what is pasted at once: paste({ text, html }).');
  return portOf('paste').act({ do: 'paste', target, what: typeof what === 'string' ? { text: what } : what! });
}

/** Taps a target with a finger; `by: [x, y]` swipes, `held` keeps it there, `times` taps again. */
export const touch = taking(
  2,
  'touch',
  (target: Target, options: TouchOptions = {}): Promise<void> => portOf('touch').act({ do: 'touch', target, options }),
);

/** Moves two fingers on a target apart (`scale` above 1) or together (below 1). */
export const pinch = taking(
  2,
  'pinch',
  (target: Target, options: { scale: number }): Promise<void> =>
    portOf('pinch').act({ do: 'pinch', target, scale: options?.scale }),
);

/** Gives the viewport another size, in CSS pixels, until the look ends. */
export const resize = taking(
  1,
  'resize',
  (size: Amount): Promise<void> => portOf('resize').act({ do: 'resize', size }),
  'Give both at once: resize([360, 640])',
);
