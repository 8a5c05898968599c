/** A step that did not hold. */
import type { Problem } from '../../core/problem/problem.ts';

/** A step did not hold; it has been recorded, and the script ends. */
export class StepFailed extends Error {
  readonly problem: Problem;
  readonly stepStack: string | null;
  constructor(value: Problem, stepStack: string | null) {
    super(value.message);
    this.problem = value;
    this.stepStack = stepStack;
  }
}
