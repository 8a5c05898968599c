/** Runs and what they bring: the values that go from the runner to the store, and on to everybody who watches. */
import type { LookInfo, LookName } from '../look/look.ts';
import type { Allowance } from '../picture/allowance.ts';
import type { Progress } from './progress.ts';
import type { Problem } from '../problem/problem.ts';
import type { CaptureState, Tally, Verdict } from './verdict.ts';

/** What somebody asked to be run. */
export type RunRequest = {
  patterns: string[];
  /** Looks by their full names, beside what the patterns mean; all looks when neither names any. */
  looks: LookName[];
  /** Names of environments; all of the configuration's when empty. */
  environments: string[];
  /** How often every look is run. */
  repeat: number;
  /** Run everything, also what would come out as it did before. */
  fresh: boolean;
  /**
   * How much of what would be reused is run all the same, photographed, in percent; null for what takes little time.
   */
  audit: number | null;
  /** Only looks that depend on a file that has changed since this commit, branch or tag; null for all. */
  changed: string | null;
  /** Only looks that nobody has run as they are now, whatever they came to. */
  due: boolean;
  /** Only looks with any of these tags, and none with any of the others. */
  tags: string[];
  withoutTags: string[];
  /** Look files that leave out looks for one that they mark as the only one are refused. */
  refuseOnly: boolean;
  /** Look files are opened to learn which looks there are, and nothing is run. */
  listing: boolean;
  /** Every time after the first under other conditions, to find the looks that come out differently. */
  steady: boolean;
  /** In windows that can be seen, one look after the other; the last one stays on the screen. */
  headed: boolean;
  /** What another browser has taken is compared to the pixel, so that this one's pictures can be taken over. */
  upgrade: boolean;
  /** It is counted what looks run of the project's sources. */
  coverage: boolean;
  /** It is measured what every step costs the browser. Everything is run, one look after the other. */
  timing: boolean;
  /** Accessibility is looked at after every step, rather than at the end of looks only. */
  everyStep: boolean;
  /** How long each step waits, in milliseconds, for somebody who looks on. */
  pace: number;
};

/** Every look, once, in every environment, but for what need not be run. */
export const usualRequest: RunRequest = {
  patterns: [],
  looks: [],
  environments: [],
  repeat: 1,
  fresh: false,
  audit: null,
  changed: null,
  due: false,
  tags: [],
  withoutTags: [],
  refuseOnly: false,
  listing: false,
  steady: false,
  headed: false,
  upgrade: false,
  coverage: false,
  timing: false,
  everyStep: false,
  pace: 0,
};

export type RunStatus = 'queued' | 'running' | 'finished' | 'stopped' | 'ended';

/** One run, as it is told to people. */
export type RunSummary = {
  id: number;
  status: RunStatus;
  started: string;
  finished: string | null;
  request: RunRequest;
  /** Looks that it has, one for each environment and repetition; while it goes on, as far as is known. */
  planned: number;
  done: number;
  tally: Tally;
  /** How many of them were taken over from earlier runs, since nothing that they rest on has changed. */
  reused: number;
  /** Captures taken, and those of them that came out otherwise than at the first repetition. */
  captures: number;
  unstable: number;
  engine: string | null;
  /** The commit that the project was at, if it is kept with git. */
  commit: string | null;
  /** The branch that it was on; null outside git, and where no branch was. */
  branch: string | null;
  /** What went wrong with the run as a whole, or with files that it needed. */
  problems: Problem[];
  /** Looks that were meant, but that their files leave out, with why. */
  skipped: { component: string; look: string; why: string }[];
  /** What else is to be said of it: old runs that were removed, baselines whose look is gone. */
  notes: string[];
};

/** One capture of a look, as it is told to people. */
export type CaptureSummary = {
  name: string;
  /** Hash of the PNG. */
  hash: string;
  width: number;
  height: number;
  /** The step it was taken at, and the moment it shows. */
  step: number;
  moment: number;
  /** SHA-256 of the canonical form of that moment. */
  canonical: string;
  /** No picture was taken: the moment is as approved, and so the approved picture stands for it. */
  isVouched: boolean;
  /** What of it is compared otherwise, and why. */
  allowances: Allowance[];
  state: CaptureState;
  /** Hash of the baseline's PNG and of the difference picture, where there are any. */
  baseline: string | null;
  difference: string | null;
  /** The newest decision about exactly this picture. */
  decision: DecisionNote | null;
};

/** Who decided what, and why. */
export type DecisionNote = {
  kind: 'approve' | 'reject' | 'adopt';
  who: string;
  at: string;
  why: string | null;
  /** Who is to fix what was rejected; null when nobody was named. */
  fixer: string | null;
  /** It was made against the baseline that holds now; one about an earlier baseline is history. */
  stands: boolean;
};

const standingDecision = ({ decision }: CaptureSummary): DecisionNote | null => (decision?.stands ? decision : null);

/** True when a capture still waits for somebody to decide about it. */
export const isUndecided = (capture: CaptureSummary): boolean =>
  capture.state.kind !== 'same' && standingDecision(capture) === null;

/** What a result stands at now: its verdict, unless everything in question has been approved since. */
export function standing(result: Pick<ResultSummary, 'verdict' | 'captures'>): Verdict {
  if (result.verdict !== 'changed' && result.verdict !== 'new') return result.verdict;
  const isOpen = (capture: CaptureSummary): boolean => {
    const decision = standingDecision(capture);
    return capture.state.kind !== 'same' && (decision === null || decision.kind === 'reject');
  };
  return result.captures.some(isOpen) ? result.verdict : 'passed';
}

/** What one look came to in one environment. */
export type Outcome = {
  environment: string;
  repetition: number;
  verdict: Verdict;
  problem: Problem | null;
  notes: string[];
  /** It came out differently after others had run in its document, which was shown twice; this is how it is alone. */
  orderDependent: boolean;
  /** It came out differently at the first try, and nothing that ran before it was the reason. */
  isUnsteady: boolean;
  /** It came out differently from an earlier run, although nothing that it rests on has changed. */
  isContradiction: boolean;
  /** Milliseconds from mount to last capture. */
  took: number;
  /** The step at which it went wrong. */
  failedStep: number | null;
};

/** The result of one look in one run, without its timeline. */
export type ResultSummary = LookInfo &
  Outcome & {
    id: number;
    /** The run that it comes from: an earlier one for a result that was reused. */
    run: number;
    steps: number;
    captures: CaptureSummary[];
  };

/** What happens during a run, in order; also the live feed's messages. */
export type RunEvent =
  | { kind: 'run-queued'; run: RunSummary }
  | { kind: 'run-started'; run: RunSummary }
  | { kind: 'look-started'; run: number; component: string; look: string; environment: string }
  | { kind: 'look-finished'; run: number; result: ResultSummary }
  | { kind: 'run-progress'; run: RunSummary; progress: Progress }
  | { kind: 'run-finished'; run: RunSummary }
  | { kind: 'decided'; captures: number }
  /** A decision about many captures is carried out; so many of their pictures are packed. */
  | { kind: 'deciding'; done: number; all: number }
  /** Somebody has left a comment. */
  | { kind: 'commented' }
  /** A live look has changed: it has stopped, gone on, ended. */
  | { kind: 'sitting'; id: number }
  /** Events were missed, and what is known has to be asked for again. */
  | { kind: 'gap' };
