/** Where a look file's document begins: puts the page's side of Sguardo in place, and runs looks when its host asks. */
import { fail, type Problem, problem, toProblem } from '../core/problem/problem.ts';
import { givenIn } from '../core/props/given.ts';
import { errorInWords, show } from '../core/value/show.ts';
import type { FileReport, LookReport, LookRequest, PageGlobal } from '../core/wire/wire.ts';
import type { Looks } from '../language/looks.ts';
import { connectPort } from '../language/port.ts';
import type { World } from '../language/settings.ts';
import { answerInWords } from '../language/words.ts';
import { beginAudit, endAudit, walkAtEnd, watchFocus } from './accessibility/observer.ts';
import { endTransitions, heldOut } from './accessibility/unseen.ts';
import { act } from './act/act.ts';
import { held } from './act/keyboard.ts';
import { watchPointer } from './act/pointer.ts';
import { watchPresses } from './act/slip.ts';
import { beginAttending, go, isAttended, isStopped, stopAtEnd, stopAtPause } from './attend/attend.ts';
import { askForChoices, choose, endAsking } from './attend/choice.ts';
import { letTimeRun, settleNow } from './attend/hands.ts';
import { beginChallenge, endChallenge } from './challenge/challenge.ts';
import { checkBegun } from './check/begun.ts';
import { ensured } from './check/check.ts';
import { forgetCalls, subjectInWords } from './check/forget.ts';
import { evaluate, evaluateBase, isPlain, keepTimeFor, type Loaded, type Modules, type Present } from './evaluate.ts';
import { isTrusted, reply, request, trust } from './host/host.ts';
import { deepenStacks, stackOf } from './host/stack.ts';
import { decideRequests } from './network/decide.ts';
import { watchSources } from './network/events.ts';
import { replyInParts, watchRequests } from './network/requests.ts';
import { addRoute, pauseFiles } from './network/routes.ts';
import { watchSockets } from './network/sockets.ts';
import { repliedInParts } from './network/streams.ts';
import { setAddress, settleHead } from './pins/document.ts';
import { installPins, isMarked } from './pins/pins.ts';
import { replacedNow } from './pins/world.ts';
import { watchBlobs } from './record/blobs.ts';
import { watchConsole } from './record/console.ts';
import { watchInternals } from './record/internals.ts';
import { watchOpaque } from './record/opaque.ts';
import { type Recording, recordingNow } from './record/recording.ts';
import { watchRoots } from './record/roots.ts';
import { watchSheets } from './record/sheets.ts';
import { step } from './record/step.ts';
import { StepFailed } from './record/stepFailed.ts';
import { watchTrouble } from './record/trouble.ts';
import { setAllowed } from './session/allowed.ts';
import { captured } from './session/capture.ts';
import { clockMoved } from './session/clock.ts';
import { frameFor } from './session/look.ts';
import { watchMessages } from './session/messages.ts';
import { grouped } from './session/part.ts';
import { perform } from './session/perform.ts';
import { openSession } from './session/session.ts';
import { sizeKnown, watchSize } from './session/size.ts';
import { beginWorld, fillWorld, worldChanged } from './session/world.ts';
import { placeStyles, stylesNow } from './styles.ts';
import { beginTime } from './time/time.ts';

/** Everything of ours that looks at the page, before anything of the project is evaluated. */
function watch(): void {
  deepenStacks();
  setAddress('/');
  watchSize();
  installPins();
  watchBlobs();
  watchRoots();
  watchSheets();
  watchInternals();
  watchOpaque();
  watchRequests();
  watchSources();
  watchSockets();
  replyInParts(repliedInParts);
  decideRequests();
  watchConsole();
  watchTrouble();
  watchMessages();
  watchFocus();
  watchPointer();
  watchPresses();
  connectPort({
    act,
    check: ensured,
    answer: (route, init) =>
      step('answer', answerInWords(route, init), async (_, { number }) => {
        const made = addRoute(route, init);
        await pauseFiles(number);
        return made;
      }),
    begun: checkBegun,
    world: worldChanged,
    reset: (subject) => step('action', `forget the calls of ${subjectInWords(subject)}`, () => forgetCalls(subject)),
    part: grouped,
    hold: held,
    capture: captured,
    pause: () =>
      step('action', 'pause', (current, recording) =>
        isAttended() ? stopAtPause(current, recording) : fail('pause-alone'),
      ),
    clock: clockMoved,
    called(name, args) {
      const recording = recordingNow();
      const title = `${name}(${args.map(show).join(', ')})`;
      recording?.mark({ lane: 'spies', at: recording.now(), took: null, title, level: 'info' });
    },
  });
}

/** What the error that ended a script is to its author. */
function failure(error: unknown, recording: Recording): Pick<LookReport, 'outcome' | 'problem' | 'stack'> {
  if (error instanceof StepFailed) return { outcome: 'failed', problem: error.problem, stack: error.stepStack };
  const wrong = toProblem(error, 'script-threw', { error: errorInWords(error) });
  const stack = stackOf(error);
  recording.end(recording.begin('error', wrong.message, stack ?? undefined), 'failed', wrong);
  return { outcome: 'failed', problem: wrong, stack };
}

/** What a look file says comes before the configuration, and what a look says before its file. */
function withOwn(asked: LookRequest, looks: Looks): { request: LookRequest; world: World } {
  const state = looks.states[asked.look];
  const patience = state?.patience ?? looks.patience ?? asked.patience;
  const settle = state?.settle ?? looks.settle ?? asked.settle;
  const now = state?.now ?? looks.now;
  const media = { ...looks.media, ...state?.media };
  return {
    request: { ...asked, patience, settle, now: now === undefined ? asked.now : Date.parse(now) },
    world: { ...looks, ...state, media },
  };
}

async function runLook(modules: Modules, { looks, frame }: Loaded, asked: LookRequest): Promise<LookReport> {
  const { request, world } = withOwn(asked, looks);
  // What cannot be had is told when there is a look to tell it of.
  sizeKnown();
  const began = await beginWorld(request, world).then(
    () => null,
    (error: unknown) => ({ error }),
  );
  beginAttending(request);
  if (request.attended) askForChoices();
  const around = frameFor(looks, asked.look, frame);
  setAllowed(request.allowed, looks, asked.look);
  const session = openSession(document.getElementById('look')!, modules.adapter, around, request);
  const { recording } = session;
  beginAudit(request.audit, looks, asked.look);
  beginChallenge(request.mutation);
  let came: Pick<LookReport, 'outcome' | 'problem' | 'stack'> = { outcome: 'passed', problem: null, stack: null };
  try {
    if (began) throw began.error;
    fillWorld(world);
    await perform(session, looks, asked.look, modules);
    if (recording.overlooked) throw recording.overlooked;
  } catch (error) {
    came = failure(error, recording);
    if (inVain.includes(came.problem!.code)) for (const text of recording.suspicions) recording.note(text);
  }
  // An error that nobody caught explains more than the step that stumbled over it.
  if (recording.uncaught) {
    const { problem: wrong, stack } = recording.uncaught;
    came = { outcome: wrong.code === 'render-threw' ? 'broken' : 'failed', problem: wrong, stack };
  }
  await stopAtEnd(recording, came.problem);
  endAsking();
  let audit: LookReport['audit'] = null;
  try {
    if (came.outcome === 'passed') audit = await endAudit();
  } catch (error) {
    // Whoever replaces functions of the platform has that noted anyway.
    recording.note(`Its accessibility could not be looked at: ${errorInWords(error)}`);
  }
  endChallenge();
  if (audit && !request.stays) audit = await walkAtEnd({ ...came, notes: [...recording.notes], left: [], audit });
  const left = await session.dispose(request.stays);
  // What went wrong with our own work for want of a function of the platform is not the browser's doing.
  if (came.problem && ownWork.includes(came.problem.code) && replacedNow().length > 0) return tampered(came.problem);
  return { ...came, notes: recording.notes, left, audit };
}

/** Problems of a step that has waited for something. */
const inVain: readonly string[] = ['check-failed', 'target-missing', 'target-hidden'];

/** Problems of Sguardo's own work, rather than of a look. */
const ownWork: readonly string[] = ['capture-failed', 'internal'];

function saidBy(error: unknown): string {
  try {
    return error instanceof Error ? errorInWords(error) : (error as Problem).message;
  } catch {
    return 'it cannot even be said how';
  }
}

/** A look that has taken from the page what our own side of it needs. @throws the error, when it has not */
function tampered(error: unknown): LookReport {
  const left = replacedNow();
  if (left.length === 0) throw error;
  const wrong = problem('platform-replaced', { what: left[0], error: saidBy(error) });
  return { outcome: 'broken', problem: wrong, stack: stackOf(error), notes: [], left, audit: null };
}

// At once, before the next module is evaluated: frameworks keep the timers and clocks that they find then.
watch();

/** What a look file says of its looks. */
const declaredIn = ({ looks }: Loaded): Extract<FileReport, { looks: object }>['looks'] =>
  Object.entries(looks.states).map(([look, state]) => ({
    look,
    hasScript: typeof state.script === 'function',
    after: typeof state.after === 'string' ? state.after : null,
    isolate: state.isolate ?? looks.isolate ?? null,
    timeLimit: state.timeLimit ?? looks.timeLimit ?? null,
    dependsOn: [...(looks.dependsOn ?? []), ...(state.dependsOn ?? [])],
    reuse: state.reuse ?? looks.reuse ?? true,
    tags: [...new Set([...(looks.tags ?? []), ...(state.tags ?? [])])],
    skip: state.skip ?? looks.skip ?? null,
    only: state.only === true,
    environments: state.environments ?? looks.environments ?? null,
    compares: state.compare?.what ?? looks.compare?.what ?? null,
    given: givenIn({ ...looks.props, ...state.props }),
    reference: state.reference ?? looks.reference ?? null,
    budget: state.budget ?? looks.budget ?? null,
  }));

async function reportOf(present: Present): Promise<FileReport> {
  const loaded = await present.loaded;
  if ('problem' in loaded) return { problem: loaded.problem, stack: loaded.stack };
  return { looks: declaredIn(loaded), isPlain: isPlain(), styles: isPlain() ? stylesNow() : [] };
}

/** Look files that the document has, by the address paths of their scripts. */
const scripts: Record<string, Modules> = {};

/** The document of the look file that came first; others may follow. */
function open(first: Modules): void {
  let present: Present | null = null;
  const exposed: PageGlobal = {
    file(token, now) {
      trust(token);
      if (!present && isTrusted(token)) beginTime(now);
      present ??= evaluate(first);
      return reportOf(present);
    },
    async warm(token, now) {
      trust(token);
      if (present || !isTrusted(token)) return false;
      beginTime(now);
      const base = evaluateBase(first);
      keepTimeFor(base);
      await base;
      return true;
    },
    async turn(token, { script, styles }, now) {
      if (!isTrusted(token) || !isPlain() || isMarked()) return null;
      if (!scripts[script]) await import(/* @vite-ignore */ script);
      const modules = scripts[script];
      if (modules?.adapter !== first.adapter) return null;
      await placeStyles(styles);
      beginTime(now);
      present = evaluate(modules);
      await present.loaded;
      // What it has loaded late would be taken away here, where a document of its own keeps it.
      if (stylesNow().some((path) => path.endsWith('.css') && !styles.includes(path))) return null;
      await placeStyles(styles);
      settleHead();
      return reportOf(present);
    },
    async run(token, asked) {
      const loaded = await present?.loaded;
      if (!isTrusted(token) || !present || !loaded || 'problem' in loaded)
        throw new Error('This document runs no looks.');
      try {
        return await runLook(present.modules, loaded, asked);
      } catch (error) {
        return tampered(error);
      }
    },
    replaced: () => replacedNow(),
    reply: (token, id, error, files) => isTrusted(token) && reply(id, error, files),
    heldOut: (token) => (isTrusted(token) ? heldOut() : []),
    settle: (token) => isTrusted(token) && endTransitions(),
    request: (token, asked) => isTrusted(token) && request(asked),
    async steer(token, steering) {
      if (!isTrusted(token)) return;
      if (steering.do === 'go') go(steering.orders);
      else if (steering.do === 'time') letTimeRun(steering.runs);
      else if (steering.do === 'record') (await import('./doing/doing.ts')).record(steering.isOn);
      else if (steering.do === 'choose') await choose(steering.index).then(settleNow);
      else await settleNow();
    },
    async attempt(token, line) {
      if (!isTrusted(token) || !isStopped()) return { value: null, problem: problem('sitting-running'), steps: 0 };
      return (await import('./attend/line.ts')).tryLine(line);
    },
    async point(token, x, y) {
      if (!isTrusted(token)) return null;
      const { elementAt, pointedAt } = await import('./live/point.ts');
      const element = elementAt(x, y);
      return element && pointedAt(element);
    },
    async complete(token, text) {
      if (!isTrusted(token)) return { from: 0, words: [] };
      return (await import('./attend/complete.ts')).completionOf(text);
    },
  };
  Object.defineProperty(window, '__sguardo', { value: Object.freeze(exposed) });
}

/** What the script of a look file calls. The first one begins the document. */
export function start(modules: Modules): void {
  const isFirst = Object.keys(scripts).length === 0;
  scripts[new URL(modules.script).pathname] ??= modules;
  if (isFirst) open(modules);
}
