/** What a script can ask of the page, as values: they can be printed, and say nothing of how they are carried out. */
import type { Answer } from './answer.ts';
import type { Spy } from './spy.ts';
import type { Name, Target } from './target.ts';

/** Two lengths in CSS pixels: to the right and down, or width and height. */
export type Amount = readonly [number, number];

/** Where on an element: from its top left corner; its middle when it is left out. */
export type Spot = { at?: Amount };

/** How a click is done. */
export type ClickOptions = Spot & {
  /** Default `left`. */
  button?: 'left' | 'middle' | 'right';
  /** Keys that are held meanwhile, such as `Shift` or `Control+Shift`. */
  holding?: string;
  /** 2 for a double click; at most 3. */
  times?: number;
};

/** How a key is pressed. */
export type PressOptions = {
  /** How often; once when it is left out. */
  times?: number;
  /** How long the key stays down, in milliseconds of the look's time; it repeats as a held key does. */
  held?: number;
};

/** Something from outside the page. */
export type Carried = { text?: string; html?: string; files?: readonly (File | string)[] };

/** How something is dragged; `at` is where it is let go, from the top left corner of the other target. */
export type DragOptions = Spot & {
  /** Keys that are held meanwhile. */
  holding?: string;
  /** Where the target is taken: from its top left corner. */
  from?: Amount;
  /** How long it rests before it lets go, in milliseconds of the look's time: some lists look only now and then. */
  held?: number;
};

/** How a finger touches. */
export type TouchOptions = Spot & {
  /** How often it taps; at most 10. */
  times?: number;
  /** How far the finger moves. */
  by?: Amount;
  /** How long it stays before it moves or leaves, in milliseconds of the look's time. */
  held?: number;
};

/** An end to scroll to. */
export type Side = 'top' | 'bottom' | 'left' | 'right';

/** Something that a person does with mouse, keyboard and fingers. */
export type Action =
  | { do: 'click'; target: Target; options: ClickOptions }
  | { do: 'hover'; target: Target; options: Spot }
  | { do: 'clear' | 'focus'; target: Target }
  | { do: 'blur'; target: Target | null }
  | { do: 'unhover' }
  | { do: 'type'; target: Target; text: string }
  | { do: 'press'; target: Target | null; keys: string; options: PressOptions }
  | { do: 'select'; target: Target; options: readonly string[] }
  | { do: 'drag'; what: Target | Carried; to: Target | { by: Amount }; options: DragOptions }
  | { do: 'scroll'; target: Target; way: { by?: Amount; to?: Side } }
  | { do: 'upload'; target: Target; files: readonly (File | string)[] }
  | { do: 'paste'; target: Target | null; what: Carried }
  | { do: 'touch'; target: Target; options: TouchOptions }
  | { do: 'pinch'; target: Target; scale: number }
  | { do: 'resize'; size: Amount };

/** What is said of the elements that a target describes. */
export type TargetClaim =
  | { is: 'visible' | 'absent' | 'disabled' | 'enabled' | 'checked' | 'unchecked' | 'focused' }
  | { is: 'reads'; text: Name }
  | { is: 'value'; value: Name | number }
  | { is: 'attribute'; name: string; value: Name | undefined }
  | { is: 'style'; property: string; value: Name | number }
  | { is: 'named' | 'described'; text: Name }
  | { is: 'role'; role: string }
  | { is: 'counted'; n: number }
  | { is: 'within'; what: Target | 'viewport' }
  | { is: 'before'; what: Target };

/** What a request is compared with; each part may be left out. */
export type Asked = {
  body?: unknown;
  headers?: Record<string, string | RegExp>;
  query?: Record<string, string | RegExp>;
  /** What stands for the names in the route, as in `/api/berths/:id`. */
  params?: Record<string, string | RegExp>;
};

/** What is said of the calls of a spy, or of the requests that an answer was given. */
export type CallClaim =
  | { is: 'called' }
  | { is: 'called times'; n: number }
  | { is: 'called with'; args: readonly unknown[] }
  | { is: 'asked with'; what: Asked }
  | { is: 'called in turn'; calls: readonly unknown[] };

/** What is said of a value. */
export type ValueClaim = { is: 'equal' | 'matching'; to: unknown };

/** Where a value comes from: itself, or one of the calls of a spy or answer, from the end when `n` is negative. */
export type ValueSource = { value: unknown } | { call: number; of: Spy | Answer };

/** How a check is carried out: negated or not, and with how much patience, if it has some of its own. */
export type CheckManner = { isNot: boolean; patience: number | null };

/** A statement that is retried until it holds. */
export type Check = CheckManner &
  (
    | { of: 'target'; target: Target; claim: TargetClaim }
    | { of: 'calls'; subject: Spy | Answer; claim: CallClaim }
    | { of: 'value'; source: ValueSource; claim: ValueClaim }
    | { of: 'no spy'; given: string }
  );
