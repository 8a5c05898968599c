/** Where a look file's document begins: puts the page's side of Sguardo in place, and runs looks when its host asks. */
import { fail, type Problem, problem, toProblem } from '../core/problem/problem.ts';
import { errorInWords, show } from '../core/value/show.ts';
import type { FileReport, LookReport, LookRequest, PageGlobal } from '../core/wire/wire.ts';
import { answerInWords } from '../language/words.ts';
import { isLooks, type Looks } from '../language/looks.ts';
import { connectPort } from '../language/port.ts';
import { act } from './act/act.ts';
import type { Adapter } from './adapters/adapter.ts';
import { ensured } from './check/check.ts';
import { isTrusted, reply, request, trust } from './host/host.ts';
import { decideRequests } from './network/decide.ts';
import { watchRequests } from './network/requests.ts';
import { addRoute } from './network/routes.ts';
import { setAddress } from './pins/document.ts';
import { installPins, settlePins } from './pins/pins.ts';
import { replacedNow } from './pins/world.ts';
import { watchBlobs } from './record/blobs.ts';
import { watchConsole } from './record/console.ts';
import { type Recording, recordingNow } from './record/recording.ts';
import { watchRoots } from './record/roots.ts';
import { beginTime } from './time/time.ts';
import { watchOpaque } from './record/opaque.ts';
import { watchSheets } from './record/sheets.ts';
import { step, StepFailed } from './record/step.ts';
import { watchTrouble } from './record/trouble.ts';
import { captured } from './session/capture.ts';
import { clockMoved, keepTime } from './session/clock.ts';
import { beginObserving, endObserving } from './session/observers.ts';
import { grouped, perform } from './session/perform.ts';
import { openSession } from './session/session.ts';

type Module = () => Promise<{ default?: unknown }>;

/** What a document is made of: its look file, the project's frame, and the framework that mounts. */
export type Modules = { file: string; looks: Module; frame: Module | null; frameFile: string | null; adapter: Adapter };

const stackOf = (error: unknown): string | null => (error instanceof Error ? (error.stack ?? null) : null);

/** Everything of ours that looks at the page, before anything of the project is evaluated. */
function watch(): void {
  setAddress('/');
  installPins();
  watchBlobs();
  watchRoots();
  watchSheets();
  watchOpaque();
  watchRequests();
  decideRequests();
  watchConsole();
  watchTrouble();
  connectPort({
    act,
    check: ensured,
    answer: (route, init) => step('answer', answerInWords(route, init), () => addRoute(route, init)),
    part: grouped,
    capture: captured,
    clock: clockMoved,
    called(name, args) {
      const recording = recordingNow();
      const title = `${name}(${args.map(show).join(', ')})`;
      recording?.mark({ lane: 'spies', at: recording.now(), took: null, title, level: 'info' });
    },
  });
}

type Loaded = { looks: Looks; frame: unknown };

async function load({
  file,
  looks,
  frame,
  frameFile,
}: Modules): Promise<Loaded | { problem: LookReport['problem']; stack: string | null }> {
  try {
    const wrapper = frame ? (await frame()).default : null;
    if (wrapper !== null && typeof wrapper !== 'function' && typeof wrapper !== 'object')
      fail('frame-wrong', { file: frameFile ?? '' });
    const exported = (await looks()).default;
    if (!isLooks(exported)) return fail('file-empty', { file });
    if (Object.keys(exported.states).length === 0) return fail('looks-none', { file });
    const odd = Object.keys(exported.states).find((name) => !name.isWellFormed() || name.trim() === '');
    if (odd !== undefined) fail('look-name', { file, look: JSON.stringify(odd) });
    return { looks: exported, frame: wrapper };
  } catch (error) {
    return { problem: toProblem(error, 'file-threw', { file, error: errorInWords(error) }), stack: stackOf(error) };
  }
}

/** What the error that ended a script is to its author. */
function failure(error: unknown, recording: Recording): Pick<LookReport, 'outcome' | 'problem' | 'stack'> {
  if (error instanceof StepFailed) return { outcome: 'failed', problem: error.problem, stack: error.stepStack };
  const wrong = toProblem(error, 'script-threw', { error: errorInWords(error) });
  const stack = stackOf(error);
  recording.end(recording.begin('error', wrong.message, stack ?? undefined), 'failed', wrong);
  return { outcome: 'failed', problem: wrong, stack };
}

/** What a look file says of patience comes before the configuration. */
function withOwn(asked: LookRequest, looks: Looks): LookRequest {
  const state = looks.states[asked.look];
  const patience = state?.patience ?? looks.patience ?? asked.patience;
  const settle = state?.settle ?? looks.settle ?? asked.settle;
  return { ...asked, patience, settle };
}

async function runLook({ adapter }: Modules, { looks, frame }: Loaded, asked: LookRequest): Promise<LookReport> {
  const session = openSession(document.getElementById('look')!, adapter, frame, withOwn(asked, looks));
  const { recording } = session;
  beginObserving();
  let came: Pick<LookReport, 'outcome' | 'problem' | 'stack'> = { outcome: 'passed', problem: null, stack: null };
  try {
    await perform(session, looks, asked.look, adapter.nameOf);
  } catch (error) {
    came = failure(error, recording);
  }
  // An error that nobody caught explains more than the step that stumbled over it.
  if (recording.uncaught) {
    const { problem: wrong, stack } = recording.uncaught;
    came = { outcome: wrong.code === 'render-threw' ? 'broken' : 'failed', problem: wrong, stack };
  }
  const evidence = await endObserving();
  const left = await session.dispose();
  // What went wrong with our own work for want of a function of the platform is not the browser's doing.
  if (came.problem && ownWork.includes(came.problem.code) && replacedNow().length > 0) return tampered(came.problem);
  return { ...came, notes: recording.notes, left, evidence };
}

/** Problems of Sguardo's own work, rather than of a look. */
const ownWork: readonly string[] = ['capture-failed', 'internal'];

/** A look that has taken from the page what our own side of it needs. @throws the error, when it has not */
function tampered(error: unknown): LookReport {
  const left = replacedNow();
  if (left.length === 0) throw error;
  const said = error instanceof Error ? errorInWords(error) : (error as Problem).message;
  const wrong = problem('platform-replaced', { what: left[0], error: said });
  return { outcome: 'broken', problem: wrong, stack: stackOf(error), notes: [], left, evidence: [] };
}

// At once, before the next module is evaluated: frameworks keep the timers and clocks that they find then.
watch();

/** Begins the document of a look file. Called once. */
export function start(modules: Modules): void {
  let loading: ReturnType<typeof load> | null = null;
  const loaded = (): ReturnType<typeof load> => {
    if (loading) return loading;
    const result = load(modules);
    // A module may wait for a timer before it is there.
    void keepTime(
      result,
      () => false,
      () => false,
    );
    loading = result.then((came) => {
      modules.adapter.warm();
      settlePins();
      return came;
    });
    return loading;
  };
  const exposed: PageGlobal = {
    async file(token, now): Promise<FileReport> {
      trust(token);
      if (!loading && isTrusted(token)) beginTime(now);
      const result = await loaded();
      if ('problem' in result) return { problem: result.problem!, stack: result.stack };
      const looks = Object.entries(result.looks.states).map(([look, state]) => ({
        look,
        hasScript: typeof state.script === 'function',
        after: typeof state.after === 'string' ? state.after : null,
        isolate: state.isolate ?? result.looks.isolate ?? null,
        timeLimit: state.timeLimit ?? result.looks.timeLimit ?? null,
        dependsOn: [...(result.looks.dependsOn ?? []), ...(state.dependsOn ?? [])],
        reuse: state.reuse ?? result.looks.reuse ?? true,
      }));
      return { looks };
    },
    async run(token, asked) {
      const result = await loaded();
      if (!isTrusted(token) || 'problem' in result) throw new Error('This document runs no looks.');
      try {
        return await runLook(modules, result, asked);
      } catch (error) {
        return tampered(error);
      }
    },
    replaced: () => replacedNow(),
    reply: (token, id, error) => isTrusted(token) && reply(id, error),
    request: (token, asked) => isTrusted(token) && request(asked),
  };
  Object.defineProperty(window, '__sguardo', { value: Object.freeze(exposed) });
}
