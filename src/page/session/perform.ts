/** Performs a look in a session: mounts the first state of its chain and runs every script on the way to it. */
import { fail } from '../../core/problem/problem.ts';
import { nearest } from '../../core/text/nearest.ts';
import type { Answer } from '../../language/answer.ts';
import type { Looks } from '../../language/looks.ts';
import { resetSpies, spy } from '../../language/spy.ts';
import { knowContext } from '../attend/attend.ts';
import { failUnsaid, forgetBegun } from '../check/begun.ts';
import { beginScript, forgetDoubts, tellDoubts } from '../check/doubt.ts';
import { pauseFiles, resetRoutes } from '../network/routes.ts';
import type { Modules } from '../evaluate.ts';
import type { Recording } from '../record/recording.ts';
import { failForsaken, forgetSteps } from '../record/waited.ts';
import { captured, resetCaptures } from './capture.ts';
import { keepTime } from './clock.ts';
import { callbacksOf, chainOf, type State } from './look.ts';
import { grouped } from './part.ts';
import type { Session } from './session.ts';

/** What is known of a component beside its looks. */
type Described = Pick<Modules, 'adapter' | 'types'>;

/** Answers by route, of which one that nobody has declared is told. */
const declared = (answers: Record<string, Answer>): Record<string, Answer> =>
  new Proxy(answers, {
    get(known, route) {
      if (typeof route !== 'string' || Object.hasOwn(known, route)) return Reflect.get(known, route);
      return fail('answer-unknown', { route, near: nearest(route, Object.keys(known)) ?? '' });
    },
  });

/** Runs one script; a step that it did not wait for fails it. */
async function runScript(
  { script }: State,
  recording: Recording,
  context: { props: Record<string, unknown>; answers: Record<string, Answer> },
): Promise<void> {
  recording.inScript = true;
  beginScript();
  forgetBegun();
  forgetSteps();
  const running = Promise.resolve(script?.(context));
  const steps = { isBusy: () => recording.unfinished().length > 0, free: () => recording.free() };
  void keepTime(running, steps, () => recording.isOver);
  await running;
  recording.inScript = false;
  failUnsaid();
  failForsaken(recording, false);
}

/** Spies for props by which a component calls back, and which its file does not give. */
const spied = new WeakMap<Looks, Record<string, unknown>>();

function spiesFor(looks: Looks, { adapter, types }: Described): Record<string, unknown> {
  const before = spied.get(looks);
  if (before) return before;
  const made = Object.fromEntries(callbacksOf(looks, adapter, types).map((name) => [name, spy()]));
  spied.set(looks, made);
  return made;
}

/** Performs the wanted look, its captures included. */
export async function perform(session: Session, looks: Looks, wanted: string, described: Described): Promise<void> {
  const { recording } = session;
  const chain = chainOf(looks, wanted);
  const first = chain[0]!.state;
  const unheard = spiesFor(looks, described);
  let props: Record<string, unknown> = { ...unheard, ...looks.props, ...first.props };
  let slots: Record<string, unknown> = { ...looks.slots, ...first.slots };
  const component = first.render ?? looks.render ?? looks.component;
  resetSpies({ ...props, ...Object.assign({}, ...chain.map(({ state }) => state.props)) });
  const answers = resetRoutes({ ...looks.answers, ...Object.assign({}, ...chain.map(({ state }) => state.answers)) });
  await pauseFiles(recording.number);
  // Without a script the last capture comes next, and waits by itself.
  const settle = chain.some(({ state }) => state.script);
  forgetDoubts();
  resetCaptures(true);
  for (const [index, { name, state }] of chain.entries()) {
    if (index === 0 || state.props || state.slots) {
      props = { ...props, ...state.props };
      slots = { ...slots, ...state.slots };
      const title =
        index === 0 ? `mount ${described.adapter.nameOf(looks.component)}` : `give it the props of “${name}”`;
      const callbacks = Object.keys(unheard);
      const limits = { types: described.types, shape: state.shape ?? looks.shape, callbacks };
      await session.mount(title, { component, props, slots }, settle, limits);
    }
    const given = { props, answers: declared(answers) };
    knowContext(given);
    const run = (): Promise<void> => runScript(state, recording, given);
    if (index === chain.length - 1) await run();
    else if (state.script) {
      resetCaptures(false);
      await grouped(`after “${name}”`, run);
      resetCaptures(true);
    }
  }
  tellDoubts(recording);
  await captured('end');
}
