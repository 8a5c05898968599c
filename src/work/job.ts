/** Jobs and tasks: what is to be done, as values that can be sent to another process. */
import type { Approved } from '../core/baseline/baseline.ts';
import { componentOf, type LookInfo } from '../core/look/look.ts';
import type { FinishedLook } from '../core/run/finished.ts';
import type { Environment } from '../core/settings/environment.ts';

/** One look file in one environment, for one repetition. */
export type Job = { id: number; file: string; environment: Environment; repetition: number };

/** A look that is to be run, and whether its author wants it alone in its document or not. */
export type WantedLook = { info: LookInfo; isolate: boolean | null };

/** One look to run. */
export type LookTask = {
  kind: 'look';
  job: Job;
  info: LookInfo;
  /** What has been approved, by capture: every other picture has to come out twice in a row. */
  approved: Record<string, Approved>;
  /** Every capture is photographed, also one whose moment is as approved. */
  isPhotographed: boolean;
  /** It gets a fresh document. */
  isAlone: boolean;
};

/** A look that a document has run. */
export type Ran = { file: string; look: string };

/** A look whose result is to be confirmed alone, as it came out after others. */
export type Confirmation = {
  kind: 'confirm';
  task: LookTask;
  /** The looks that its document had run before it, in their order. */
  before: Ran[];
  first: FinishedLook;
};

/** What a worker does next: open a look file to learn its looks, run one of them, or confirm what one came to. */
export type Task = { kind: 'open'; job: Job } | LookTask | Confirmation;

/** A look of a file as the file declares it. */
export const infoOf = (
  file: string,
  look: string,
  order = 0,
  hasScript = false,
  after: string | null = null,
): LookInfo => ({
  file,
  component: componentOf(file),
  look,
  order,
  hasScript,
  after,
});
