/** A session: one component on the page, from its mount until everything is taken back. */
import { problem, ProblemError } from '../../core/problem/problem.ts';
import { errorInWords } from '../../core/value/show.ts';
import type { LookRequest } from '../../core/wire/wire.ts';
import type { Action, Check } from '../../language/command.ts';
import { act } from '../act/act.ts';
import { releaseInput } from '../act/input.ts';
import type { Adapter, FrameModule, Mountable, OnError } from '../adapters/adapter.ts';
import { ensured } from '../check/check.ts';
import { append } from '../host/natives.ts';
import { setSettings } from '../host/settings.ts';
import { stackOf } from '../host/stack.ts';
import { endSources } from '../network/events.ts';
import { endSockets } from '../network/sockets.ts';
import { resetRequests } from '../network/requests.ts';
import { resetRoutes } from '../network/routes.ts';
import { beginPins, endPins } from '../pins/pins.ts';
import { replacedNatives } from '../pins/world.ts';
import { forgetBlobs } from '../record/blobs.ts';
import { beginHistory, endHistory } from '../record/history.ts';
import { Recording, setRecording } from '../record/recording.ts';
import { forgetRoots } from '../record/roots.ts';
import { step } from '../record/step.ts';
import { nextTask, runDue } from '../time/time.ts';
import { impossible, type Limits } from './shape.ts';
import { idle } from './idle.ts';
import { untilStill } from './still.ts';

export type Session = {
  readonly recording: Recording;
  /** Puts the component on the page, or gives the one that is there other props; one step, called `title`. */
  mount(title: string, what: Mountable, settle: boolean, limits: Limits): Promise<void>;
  /** Carries out an action. */
  act(action: Action): Promise<void>;
  /** Carries out a check. */
  check(check: Check): Promise<void>;
  /**
   * Takes the component off the page and everything back, unless it `stays`. What could not be taken back is returned
   * in words.
   */
  dispose(stays: boolean): Promise<string[]>;
};

/** Begins a session in an element of the page. */
export function openSession(root: Element, adapter: Adapter, frame: FrameModule | null, request: LookRequest): Session {
  setSettings(request);
  resetRequests();
  const recording = new Recording(request.number, request.recording);
  setRecording(recording);
  beginHistory();
  beginPins(request, (level, text) => {
    recording.note(text);
    recording.mark({ lane: 'console', at: recording.now(), took: null, title: text, level });
  });
  let mounted: { instance: unknown } | null = null;

  const renderError = (component: unknown, error: unknown, around: string | null = null): void => {
    recording.uncaught ??= {
      problem: problem('render-threw', {
        component: adapter.nameOf(component),
        error: errorInWords(error),
        frame: adapter.frameFile,
      }),
      // What a package throws for its caller has no line of the project but that of the component around it.
      stack: `${stackOf(error) ?? ''}\n${around ?? ''}`,
    };
  };

  const unmount = async (): Promise<void> => {
    try {
      if (mounted) adapter.unmount(mounted.instance);
    } catch (error) {
      recording.note(`It threw while it was taken off the page: ${errorInWords(error)}`);
    }
    // Some components clean up in a task of their own after they are gone.
    await nextTask();
    await runDue();
  };

  return {
    recording,
    act,
    check: ensured,
    mount: (title, what, settle, limits) =>
      step('mount', title, async (current) => {
        const why = await impossible(recording.number, limits, what.props, what.slots);
        if (why) {
          current.doubt = why;
          recording.note(why);
        }
        const onError: OnError = (error, around) => renderError(what.component, error, around);
        if (mounted) adapter.update(mounted.instance, what);
        else mounted = { instance: await adapter.mount(root, what, frame, onError) };
        if (recording.uncaught) throw new ProblemError(recording.uncaught.problem);
        // Nothing but what belongs to this instant: whatever appears for a moment is still there for the script.
        if (settle) await untilStill(0, () => recording.isOver);
      }),
    async dispose(stays) {
      const open = [...recording.open.values()].map((title) => `“${title}” was still running`);
      await recording.stop();
      if (stays) return ['it was left to be looked at'];
      endHistory();
      await unmount();
      if (!(await idle())) append(open, 'it never stopped working');
      resetRequests();
      endSources();
      endSockets();
      resetRoutes({});
      root.replaceChildren();
      await releaseInput(recording.number);
      forgetBlobs();
      forgetRoots();
      setRecording(null);
      const left = [...open, ...endPins()];
      const replaced = replacedNatives();
      if (replaced.length > 0)
        recording.note(
          'This look replaced ' +
            `${replaced.slice(0, 5).join(', ')}${replaced.length > 5 ? ` and ${replaced.length - 5} more` : ''}; ` +
            'its document was not used again.',
        );
      return left;
    },
  };
}
