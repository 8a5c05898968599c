/** A look as a live page that a person can use: mounted in real time, with its answers, and with props put over it. */
import type { PropTypes } from '../../core/props/type.ts';
import { errorInWords, show } from '../../core/value/show.ts';
import { type FromStage, type GivenProp, propsIn, type ToStage } from '../../core/wire/live.ts';
import type { Looks } from '../../language/looks.ts';
import { connectPort } from '../../language/port.ts';
import type { World } from '../../language/settings.ts';
import { resetSpies, spy } from '../../language/spy.ts';
import type { Adapter, FrameModule, Mountable } from '../adapters/adapter.ts';
import { resetRoutes } from '../network/routes.ts';
import { callbacksOf, chainOf, frameFor, type State } from '../session/look.ts';
import { setMarkAttribute } from '../host/settings.ts';
import { answerRequests } from './answers.ts';
import { placeOf } from './place.ts';
import { letPoint, pointedAt } from './point.ts';
import { repeat, tellDeeds } from './together.ts';

/** What is put on the stage: a look file as it is now. */
export type Shown = {
  file: string;
  looks: Looks;
  frame: FrameModule | null;
  adapter: Adapter;
  /** The attribute by which tests find elements. */
  mark: string;
};

/** `show` puts a look file on the stage; `know` tells it the types of the props, once they have been read. */
export type Live = { show(shown: Shown): void; know(types: PropTypes | null): void };

type Props = Record<string, unknown>;
type Message = FromStage extends infer M ? (M extends unknown ? Omit<M, 'from'> : never) : never;

const query = new URLSearchParams(location.search);

const tell = (message: Message): void =>
  parent === window ? undefined : parent.postMessage({ from: 'sguardo-stage', ...message }, '*');

function trouble(message: string): void {
  tell({ kind: 'trouble', message });
  if (parent === window) console.warn(message);
}

/** A prop as the console can show it. */
function given(value: unknown): GivenProp {
  if (value instanceof Date && !Number.isNaN(value.getTime())) return { date: value.toISOString() };
  try {
    const text = JSON.stringify(value);
    // What does not come back as it was can only be told in words.
    if (text !== undefined && show(JSON.parse(text)) === show(value)) return { json: JSON.parse(text) as unknown };
  } catch {}
  return { words: show(value) };
}

/** A prop that came from the console. */
function taken(value: unknown): unknown {
  const date = (value as { $date?: unknown } | null)?.$date;
  return typeof date === 'string' ? new Date(date) : value;
}

const merged = <T>(all: readonly (Record<string, T> | undefined)[]): Record<string, T> => Object.assign({}, ...all);

/** The world that a component finds when it is mounted, as far as a page can make it by itself. */
function prepare(looks: Looks, states: readonly State[]): void {
  const { location: address, storage } = merged([looks, ...states] as never[]) as World;
  const fill = (into: Storage, entries: Record<string, unknown> = {}): void => {
    for (const [key, value] of Object.entries(entries))
      into.setItem(key, typeof value === 'string' ? value : JSON.stringify(value));
  };
  fill(localStorage, storage?.local);
  fill(sessionStorage, storage?.session);
  if (address) history.replaceState(null, '', new URL(address, location.origin));
}

/** The look that the address names, or else the first one. */
function lookNow({ looks }: Shown): string {
  const wanted = query.get('look');
  return wanted !== null && Object.hasOwn(looks.states, wanted) ? wanted : Object.keys(looks.states)[0]!;
}

/** Says that another look is shown than the one that the address names: links outlive the names of looks. */
function tellMissing({ file }: Shown, look: string): void {
  const wanted = query.get('look');
  if (wanted !== null && wanted !== look) trouble(`${file} has no look “${wanted}”. You see “${look}”.`);
}

const failed = (error: unknown): void => trouble(errorInWords(error));

/** What goes wrong is told, and what spies hear, and what a person does. */
function tellAll(): void {
  addEventListener('error', ({ error, message }) => failed(error ?? message));
  addEventListener('unhandledrejection', ({ reason }) => failed(reason));
  tellDeeds((deed) => tell({ kind: 'did', deed }));
  connectPort({
    called: (prop: string, args: readonly unknown[]) => tell({ kind: 'called', prop, args: args.map(show).join(', ') }),
    begun: () => () => {},
  } as never);
}

/** Begins and ends pointing. */
function pointing(): (isOn: boolean) => void {
  let end = (): void => {};
  return (isOn) => {
    end();
    const nothing = (): void => tell({ kind: 'pointed', pointed: null });
    const chosen = (element: Element): void => tell({ kind: 'pointed', pointed: pointedAt(element) });
    end = isOn ? letPoint(chosen, nothing) : () => {};
    tell({ kind: 'pointing', isOn });
  };
}

/** Tells what is on the stage, before anything can go wrong: what went wrong before is forgotten with it. */
function tellShown({ looks, adapter }: Shown, look: string, types: PropTypes | null, props: Props): void {
  tell({
    kind: 'shown',
    component: adapter.nameOf(looks.component),
    look,
    looks: Object.entries(looks.states).map(([name, { script }]) => ({ look: name, hasScript: script !== undefined })),
    types,
    props: Object.fromEntries(Object.entries(props).map(([name, value]) => [name, given(value)])),
  });
}

/** The look's own props, and what stands in its slots. Scripts on the way to it are not run here. */
function own({ looks, adapter }: Shown, states: readonly State[], types: PropTypes | null, spies: Props): Mountable {
  for (const name of callbacksOf(looks, adapter, types)) spies[name] ??= spy();
  return {
    component: states[0]?.render ?? looks.render ?? looks.component,
    props: { ...spies, ...looks.props, ...merged(states.map(({ props }) => props)) },
    slots: { ...looks.slots, ...merged(states.map(({ slots }) => slots as Props)) },
  };
}

/** Tells a listener what the console asks of the stage. */
function hearConsole(listener: (asked: ToStage) => void): void {
  addEventListener('message', ({ source, data }: MessageEvent<ToStage>) => {
    if (source === parent && data?.to === 'sguardo-stage') listener(data);
  });
}

/** Begins a stage. What is shown first is mounted; what is shown later reaches the component that is there. */
export function live(): Live {
  let shown: Shown | null = null;
  let types: PropTypes | null = null;
  let over = propsIn(query.get('props'));
  let spies: Props = {};
  tellAll();
  const ready = answerRequests(trouble);
  const point = pointing();
  const place = placeOf(document.getElementById('look')!, failed);

  async function put(): Promise<void> {
    if (!shown) return;
    const now = shown;
    const look = lookNow(now);
    const states = chainOf(now.looks, look).map(({ state }) => state);
    const what = own(now, states, types, spies);
    tellShown(now, look, types, what.props);
    tellMissing(now, look);
    const put = Object.fromEntries(Object.entries(over).map(([name, value]) => [name, taken(value)]));
    const next: Mountable = { ...what, props: { ...what.props, ...put } };
    resetSpies(next.props);
    await place.put(now.adapter, look, next, async () => {
      resetRoutes({ ...now.looks.answers, ...merged(states.map(({ answers }) => answers as never)) });
      await ready;
      prepare(now.looks, states);
      return frameFor(now.looks, look, now.frame);
    });
  }

  function clear(): void {
    place.clear();
    spies = {};
    localStorage.clear();
    sessionStorage.clear();
  }

  // One after the other: what is being mounted is not mounted again.
  let last: Promise<void> = Promise.resolve();
  const then = (next: () => void | Promise<void>): void => {
    last = last.then(next).catch(failed);
  };
  hearConsole((asked) => {
    if (asked.kind === 'do') return repeat(asked.deed);
    if (asked.kind === 'point') return point(asked.isOn);
    if (asked.kind === 'reset') then(clear);
    else over = asked.props;
    then(put);
  });
  return {
    show(next) {
      shown = next;
      setMarkAttribute(next.mark);
      then(put);
    },
    know(found) {
      types = found;
      then(put);
    },
  };
}
