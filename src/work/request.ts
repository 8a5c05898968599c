/** What the page of a lane is asked to run. */
import type { Approved } from '../core/baseline/baseline.ts';
import type { Mutation } from '../core/challenge/mutation.ts';
import type { Settings } from '../core/settings/config.ts';
import type { Environment } from '../core/settings/environment.ts';
import type { Orders } from '../core/sitting/sitting.ts';
import type { Trace } from '../core/timeline/trace.ts';
import type { LookRequest } from '../core/wire/wire.ts';
import type { Hearing } from './conversation.ts';
import type { FindingMemory } from './recall.ts';

/** How a look is run, beyond what its settings say. */
export type RunOptions = {
  recording?: LookRequest['recording'];
  /** What has been approved by capture; when it is given, every other picture has to come out twice in a row. */
  approved?: Readonly<Record<string, Approved>>;
  /** Every capture is photographed, also one whose moment is as approved. */
  isPhotographed?: boolean;
  /** Should it not end, it is found out where it stands. */
  watched?: boolean;
  /** Somebody who stops its script, and lets it go on. */
  attendant?: Attendant;
  /** It is left on the page when it has ended. */
  stays?: boolean;
  /** How long it waits before each step, in milliseconds. */
  pace?: number;
  /** When its accessibility is looked at; not at all by default. */
  audit?: LookRequest['audit'];
  /** What was found before of pages that show the same; by default nothing. */
  memory?: FindingMemory | null;
  /** It is measured what it costs the browser. */
  timed?: boolean;
  /** What is made wrong while it runs. */
  mutation?: Mutation | null;
};

/** Whoever attends a look. */
export type Attendant = Hearing & {
  orders: Orders;
  /** What is recorded of the look, as it grows. */
  began(trace: Trace): void;
  /** True while the script stands: no limit of time counts then. */
  isHeld(): boolean;
};

/** So long nobody waits for a look that somebody attends, in milliseconds: the longest that a timer can be set for. */
export const endless = 2 ** 31 - 1;

/** What the page is asked for. The `number` tells this request from others of its page; see `Lane` for `isLate`. */
export function requestFor(
  look: string,
  number: number,
  { scheme }: Environment,
  settings: Settings,
  isLate: boolean,
  options: RunOptions,
): LookRequest {
  const { patience, settle, clock, now, network, markAttribute, unanswered, failsOn, allowed } = settings;
  const { recording = 'on', stays = false, attendant = null, pace = 0 } = options;
  const { audit = null, mutation = null, timed = false } = options;
  return {
    look,
    number,
    patience,
    settle,
    clock,
    now: Date.parse(now),
    scheme,
    network,
    recording,
    isLate,
    markAttribute,
    unanswered,
    failsOn,
    allowed,
    online: true,
    audit,
    attended: attendant?.orders ?? null,
    pace,
    stays,
    mutation,
    timed,
  };
}
