/** The gate that every step passes before it does anything. Open, unless somebody pauses the look. */
import type { Step } from '../../core/timeline/timeline.ts';

export type Gate = {
  /** Resolves when the step may go on; undefined when it may at once. */
  pass(step: Step): Promise<void> | undefined;
};

/** The gate of this document. A live stage replaces `pass` to pause a look before a step. */
export const gate: Gate = { pass: () => undefined };
