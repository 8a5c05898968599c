/** The stage: where the looks of one file are mounted, driven and recorded, one after the other. */
import { fail, problem, ProblemError, toProblem } from '../core/problem.ts';
import type { FileReport, LookReport, LookRequest, PageGlobal } from '../core/wire.ts';
import { releasePointer } from './actions.ts';
import { traffic, resetAnswers, watchRequests } from './answers.ts';
import { forgetBlobs, watchBlobs } from './blobs.ts';
import { reply, request } from './host.ts';
import { isLooks, type Looks, type LookState } from './looks.ts';
import { beginLook, dueTimers, endLook, pin } from './pinned.ts';
import { type Frame, mountReact, type Mounted, warmReact } from './react.ts';
import { Recording, setRecording, step, StepFailed } from './record.ts';
import { capture, part, resetCaptures } from './script.ts';
import { setPatience } from './settings.ts';
import { watchSheets } from './sheets.ts';
import { resetSpies } from './spy.ts';
import { untilStill } from './still.ts';
import { watchTrouble } from './trouble.ts';

type Modules = { file: string; looks: () => Promise<{ default?: unknown }>; frame: (() => Promise<{ default?: unknown }>) | null; frameFile: string | null };

type State = LookState<Record<string, unknown>, string>;

/** The states that lead to a look, the first one first. */
function chainOf(looks: Looks, name: string): { name: string; state: State }[] {
  const chain: { name: string; state: State }[] = [];
  for (let at: string | undefined = name; at !== undefined; ) {
    const state: State | undefined = looks.states[at];
    if (!state) return fail('after-unknown', { look: chain[0]!.name, after: at });
    const circular = chain.some((one) => one.name === at);
    chain.unshift({ name: at, state });
    if (circular) return fail('after-circular', { look: name, chain: chain.map((one) => `“${one.name}”`).join(' after ') });
    at = state.after;
  }
  return chain;
}

const errorText = (error: unknown): string => (error instanceof Error ? `${error.name}: ${error.message}` : String(error));

/** Puts the page's side of Sguardo in place. Called by the document of a look file before anything of the project is loaded. */
export function start({ file, looks: loadLooks, frame: loadFrame, frameFile }: Modules): void {
  pin('/');
  watchBlobs();
  watchSheets();
  watchRequests();
  watchTrouble();
  warmReact();
  const root = document.getElementById('look')!;
  let looks: Looks | null = null;
  let frame: Frame | null = null;

  async function load(): Promise<FileReport> {
    try {
      const wrapper = loadFrame ? (await loadFrame()).default : null;
      if (wrapper !== null && typeof wrapper !== 'function' && typeof wrapper !== 'object') fail('frame-wrong', { file: frameFile ?? '' });
      frame = wrapper as Frame | null;
      const exported = (await loadLooks()).default;
      if (!isLooks(exported)) fail('file-empty', { file });
      looks = exported as Looks;
    } catch (error) {
      return { problem: toProblem(error, 'file-threw', { file, error: errorText(error) }), stack: error instanceof Error ? (error.stack ?? null) : null };
    }
    return {
      looks: Object.entries(looks!.states).map(([look, state]) => ({ look, hasScript: typeof state.script === 'function', after: state.after ?? null })),
    };
  }
  const loaded = load();

  /** Mounts the first state of the chain and runs every script on the way to the wanted look. */
  async function perform(recording: Recording, wanted: string, mountedBy: (mounted: Mounted) => void): Promise<void> {
    const chain = chainOf(looks!, wanted);
    let props: Record<string, unknown> = { ...looks!.props, ...chain[0]!.state.props };
    resetSpies({ ...props, ...Object.assign({}, ...chain.map(({ state }) => state.props)) });
    const answers = resetAnswers({ ...looks!.answers, ...Object.assign({}, ...chain.map(({ state }) => state.answers)) });
    resetCaptures(true);
    const renderError = (error: unknown): void => {
      recording.uncaught ??= {
        problem: problem('render-threw', { component: nameOf(looks!.component), error: errorText(error) }),
        stack: error instanceof Error ? (error.stack ?? null) : null,
      };
    };
    let mounted = null as Mounted | null;
    for (const { name, state } of chain) {
      const last = name === wanted;
      if (!mounted || state.props) {
        props = { ...props, ...state.props };
        const again = mounted;
        await step('mount', again ? `give it the props of “${name}”` : `mount ${nameOf(looks!.component)}`, async () => {
          if (again) again.update(props);
          else {
            mounted = mountReact(root, looks!.component, props, frame, renderError);
            mountedBy(mounted);
          }
          if (recording.uncaught) throw new ProblemError(recording.uncaught.problem);
          // Without a script the last capture comes next, and waits by itself.
          if (chain.some((one) => one.state.script)) await untilStill(1000, traffic);
        });
      }
      const script = async (): Promise<void> => {
        recording.inScript = true;
        await state.script?.({ props, answers });
        recording.inScript = false;
        const open = recording.unfinished()[0];
        if (!open) return;
        const wrong = problem('step-unfinished', { step: open.title });
        recording.end(open, 'failed', wrong);
        throw new StepFailed(wrong, recording.stackOf(open));
      };
      if (last) await script();
      else if (state.script) {
        resetCaptures(false);
        await part(`after “${name}”`, script);
        resetCaptures(true);
      }
    }
    await capture('end');
  }

  async function run(asked: LookRequest): Promise<LookReport> {
    await loaded;
    setPatience(asked.patience);
    const recording = new Recording(asked.number, asked.recording);
    setRecording(recording);
    beginLook(asked.now, (level, text) => {
      recording.notes.push(text);
      recording.mark({ lane: 'console', at: recording.now(), took: null, title: text, level });
    });
    let mounted: Mounted | null = null;
    let report: LookReport = { outcome: 'passed', problem: null, stack: null, notes: recording.notes };
    try {
      await perform(recording, asked.look, (made) => {
        mounted = made;
      });
    } catch (error) {
      const wrong = error instanceof StepFailed ? error.problem : toProblem(error, 'script-threw', { error: errorText(error) });
      report = {
        ...report,
        outcome: 'failed',
        problem: wrong,
        stack: error instanceof StepFailed ? error.stepStack : error instanceof Error ? (error.stack ?? null) : null,
      };
      if (!(error instanceof StepFailed)) recording.end(recording.begin('error', wrong.message, report.stack ?? undefined), 'failed', wrong);
    }
    // An error that nobody caught explains more than the step that stumbled over it.
    if (recording.uncaught) {
      const { problem: wrong, stack } = recording.uncaught;
      report = { ...report, outcome: wrong.code === 'render-threw' ? 'broken' : 'failed', problem: wrong, stack };
    }
    await recording.stop();
    setRecording(null);
    try {
      (mounted as Mounted | null)?.unmount();
    } catch (error) {
      recording.notes.push(`It threw while it was taken off the page: ${errorText(error)}`);
    }
    // Some components clean up in a task of their own after they are gone.
    await dueTimers();
    resetAnswers({});
    root.replaceChildren();
    await releasePointer();
    forgetBlobs();
    await endLook(root);
    return report;
  }

  const exposed: PageGlobal = { file: () => loaded, run, reply, request };
  Object.defineProperty(window, '__sguardo', { value: Object.freeze(exposed) });
}

const nameOf = (component: unknown): string => (component as { displayName?: string }).displayName ?? (component as { name?: string }).name ?? 'the component';
