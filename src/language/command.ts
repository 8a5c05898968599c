/** What a script can ask of the page, as values: they can be printed, and say nothing of how they are carried out. */
import type { Answer } from './answer.ts';
import type { Spy } from './spy.ts';
import type { Name, Target } from './target.ts';

/** Something that a person does with mouse and keyboard. */
export type Action =
  | { do: 'click' | 'hover' | 'clear'; target: Target }
  | { do: 'type'; target: Target; text: string }
  | { do: 'press'; target: Target | null; keys: string }
  | { do: 'select'; target: Target; option: string };

/** What is said of the elements that a target describes. */
export type TargetClaim =
  | { is: 'visible' | 'absent' | 'disabled' | 'enabled' | 'checked' | 'unchecked' | 'focused' }
  | { is: 'reads'; text: Name }
  | { is: 'value'; value: Name | number }
  | { is: 'attribute'; name: string; value: Name | undefined }
  | { is: 'counted'; n: number };

/** What is said of the calls of a spy, or of the requests that an answer was given. */
export type CallClaim = { is: 'called' } | { is: 'called times'; n: number } | { is: 'called with'; args: unknown[] };

/** What is said of a value. */
export type ValueClaim = { is: 'equal'; to: unknown } | { is: 'matching'; pattern: RegExp };

/** A statement that is retried until it holds. */
export type Check =
  | { of: 'target'; target: Target; claim: TargetClaim }
  | { of: 'calls'; subject: Spy | Answer; claim: CallClaim }
  | { of: 'value'; value: unknown; claim: ValueClaim }
  | { of: 'no spy' };
