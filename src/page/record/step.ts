/** Runs one step of a timeline. */
import { unawaitedDoubt } from '../../core/problem/notes.ts';
import { fail, type Problem, problem, ProblemError } from '../../core/problem/problem.ts';
import type { Step, StepKind } from '../../core/timeline/timeline.ts';
import { errorInWords } from '../../core/value/show.ts';
import { auditStep } from '../accessibility/observer.ts';
import { passGate, stopAtFailure } from '../attend/attend.ts';
import { ask } from '../host/host.ts';
import { stackHere, stackOf } from '../host/stack.ts';
import { holdMotion } from '../time/motion.ts';
import { cameOfIt, hoverSettled } from '../session/still.ts';
import { type Details, type Recording, recordingNow } from './recording.ts';
import { StepFailed } from './stepFailed.ts';
import { waitedFor } from './waited.ts';

/** Steps behind which a script can go on although they have failed: it is given nothing by them. */
const mayGoOn: readonly StepKind[] = ['action', 'check'];

/** A step of an ended look never ends: whatever waits for it must not go on among the steps of the next one. */
const never: Promise<never> = new Promise(() => {});

/** A step that belongs to no look. @throws ProblemError `bad-step` */
async function outside(what: string): Promise<never> {
  return fail('bad-step', {
    what: `${what} was called outside a script.`,
    remedy: 'Call it inside the async script() of a look.',
  });
}

/** Takes a picture of the viewport at one moment: once more when the document has changed meanwhile. */
async function photograph(current: Step, recording: Recording): Promise<void> {
  for (let tries = 0; tries < 20; tries++) {
    holdMotion();
    const moment = recording.moment();
    const clip: [number, number, number, number] = [0, 0, innerWidth, innerHeight];
    const { index } = current;
    await ask(recording.number, {
      do: 'capture',
      name: `step ${index}`,
      clip,
      beyond: false,
      step: index,
      moment,
      unseen: [],
      allowed: [],
      opaque: true,
    });
    if (recording.moment() === moment) return;
  }
}

/** What an error in a step's body is to a person, with the stack of its place. */
function explain(error: unknown, stack: string | undefined): { wrong: Problem; place: string | null } {
  if (error instanceof ProblemError) return { wrong: error.problem, place: stack ?? null };
  const own = stackOf(error);
  return { wrong: problem('script-threw', { error: errorInWords(error) }), place: own ?? stack ?? null };
}

/** Says of a step that goes on while the next one begins that nobody has waited for it. */
function tellUnawaited(current: Step, recording: Recording): void {
  const beside = recording.unfinished().find((one) => one !== current && one.kind !== 'part');
  if (!beside || !recording.inScript || current.kind === 'part' || current.tried) return;
  recording.amend(beside, { doubt: unawaitedDoubt(current.title) });
}

/** What a step does. */
type Body<T> = (step: Step, recording: Recording) => Promise<T> | T;

/**
 * Runs `body` as one step of the timeline. Must be called before the caller awaits anything, so that its place is
 * known. The promise never settles when the look ends first.
 */
export function step<T>(kind: StepKind, title: string, body: Body<T>, details: Details = {}): Promise<T> {
  const recording = recordingNow();
  if (!recording || recording.isOver) return outside(title);
  const stack = recording.inScript ? (stackHere() ?? '') : undefined;
  const current = recording.begin(kind, title, stack, details);
  tellUnawaited(current, recording);
  return waitedFor(current, carryOut(current, recording, body, stack));
}

async function carryOut<T>(current: Step, recording: Recording, body: Body<T>, stack: string | undefined): Promise<T> {
  const { kind } = current;
  recording.open.set(current.index, current.title);
  try {
    await passGate(current, recording);
    const result = await body(current, recording);
    // What an action or a reply that is let go brings about without any time has happened when the step ends; a mount
    // sees to that itself.
    if (kind === 'action' || kind === 'answer') await cameOfIt(() => recording.isOver);
    if (kind !== 'part') {
      holdMotion();
      await hoverSettled(recording.number);
    }
    if (recording.isOver) return never;
    recording.end(current, 'passed');
    if (kind !== 'part' && kind !== 'capture') auditStep(recording, current.index);
    if (recording.photographed && kind !== 'part') await photograph(current, recording);
    return recording.isOver ? never : result;
  } catch (error) {
    if (recording.isOver) return never;
    if (error instanceof StepFailed) {
      // It was told at the inner step; the part around it only shares the outcome.
      recording.end(current, 'failed');
      throw error;
    }
    const { wrong, place } = explain(error, stack);
    recording.end(current, wrong.code === 'render-threw' ? 'broken' : 'failed', wrong);
    const failed = new StepFailed(wrong, place);
    if (!mayGoOn.includes(kind) || !(await stopAtFailure(current, recording, wrong))) throw failed;
    // Whoever attends has dealt with it; the look has failed all the same.
    recording.overlooked ??= failed;
    return undefined as T;
  } finally {
    recording.open.delete(current.index);
  }
}
