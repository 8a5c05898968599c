/** Jobs and tasks: what is to be done, as values that can be sent to another process. */
import { componentOf, type LookInfo } from '../core/look/look.ts';
import type { Environment } from '../core/settings/environment.ts';

/** One look file in one environment, for one repetition. */
export type Job = { id: number; file: string; environment: Environment; repetition: number };

/** What a worker does next: open a look file to learn its looks, or run one of them. */
export type Task =
  | { kind: 'open'; job: Job }
  | {
      kind: 'look';
      job: Job;
      info: LookInfo;
      /** Hashes of the approved pictures, by capture: every other picture has to come out twice in a row. */
      approved: Record<string, string>;
    };

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

/** The name under which a look file as a whole is told when none of its looks could be run. */
export const wholeFile = '(the file)';
