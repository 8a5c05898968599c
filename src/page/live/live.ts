/** A look as a live page that a person can use: mounted in real time, with its answers, and with props put over it. */
import { callbacksIn, type PropTypes } from '../../core/props/type.ts';
import { errorInWords, show } from '../../core/value/show.ts';
import { type FromStage, type GivenProp, propsIn, type ToStage } from '../../core/wire/live.ts';
import type { Looks } from '../../language/looks.ts';
import { connectPort } from '../../language/port.ts';
import { resetSpies, spy } from '../../language/spy.ts';
import type { Adapter, FrameModule, Mountable } from '../adapters/adapter.ts';
import { resetRoutes } from '../network/routes.ts';
import { answerRequests } from './answers.ts';
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

/** The states on the way to a look, the first one first: their scripts are not run here. */
function chainOf(looks: Looks, name: string): Looks['states'][string][] {
  const chain: Looks['states'][string][] = [];
  const seen = new Set<string>();
  for (let at: string | undefined = name; at !== undefined && !seen.has(at) && looks.states[at]; ) {
    seen.add(at);
    chain.unshift(looks.states[at]!);
    at = looks.states[at]!.after;
  }
  return chain;
}

const merged = <T>(all: readonly (Record<string, T> | undefined)[]): Record<string, T> => Object.assign({}, ...all);

/** The world that a component finds when it is mounted, as far as a page can make it by itself. */
function prepare(looks: Looks, chain: readonly Looks['states'][string][]): void {
  const { location: address, storage } = merged([looks, ...chain] as never[]) as {
    location?: string;
    storage?: { local?: Record<string, unknown>; session?: Record<string, unknown> };
  };
  const fill = (into: Storage, entries: Record<string, unknown> = {}): void => {
    for (const [key, value] of Object.entries(entries))
      into.setItem(key, typeof value === 'string' ? value : JSON.stringify(value));
  };
  fill(localStorage, storage?.local);
  fill(sessionStorage, storage?.session);
  if (address) history.replaceState(null, '', new URL(address, location.origin));
}

/** Begins a stage. What is shown first is mounted; what is shown later reaches the component that is there. */
export function live(): Live {
  const root = document.getElementById('look')!;
  let shown: Shown | null = null;
  let types: PropTypes | null = null;
  let over = propsIn(query.get('props'));
  let mounted: { instance: unknown; adapter: Adapter; look: string } | null = null;
  let spies: Props = {};
  const ready = answerRequests(trouble);

  connectPort({
    called: (prop: string, args: readonly unknown[]) => tell({ kind: 'called', prop, args: args.map(show).join(', ') }),
    begun: () => () => {},
  } as never);
  let endPointing = (): void => {};
  function point(isOn: boolean): void {
    endPointing();
    const nothing = (): void => tell({ kind: 'pointed', pointed: null });
    const chosen = (element: Element): void =>
      tell({ kind: 'pointed', pointed: pointedAt(element, shown?.mark ?? 'data-testid') });
    endPointing = isOn ? letPoint(chosen, nothing) : () => {};
    tell({ kind: 'pointing', isOn });
  }

  tellDeeds((deed) => tell({ kind: 'did', deed }));
  const failed = (error: unknown): void => trouble(errorInWords(error));
  addEventListener('error', ({ error, message }) => failed(error ?? message));
  addEventListener('unhandledrejection', ({ reason }) => failed(reason));

  const lookNow = ({ looks }: Shown): string => {
    const wanted = query.get('look');
    return wanted !== null && looks.states[wanted] ? wanted : Object.keys(looks.states)[0]!;
  };

  /** The look's own props, and what stands in its slots. */
  function own({ looks, adapter }: Shown, look: string): Mountable {
    const chain = chainOf(looks, look);
    const names = [...(adapter.callbacksOf?.(looks.component) ?? []), ...(types ? callbacksIn(types) : [])];
    for (const name of names) spies[name] ??= spy();
    return {
      component: chain[0]?.render ?? looks.render ?? looks.component,
      props: { ...spies, ...looks.props, ...merged(chain.map(({ props }) => props)) },
      slots: { ...looks.slots, ...merged(chain.map(({ slots }) => slots as Props)) },
    };
  }

  async function put(): Promise<void> {
    if (!shown) return;
    const { looks, adapter, frame } = shown;
    const look = lookNow(shown);
    const what = own(shown, look);
    const put = Object.fromEntries(Object.entries(over).map(([name, value]) => [name, taken(value)]));
    const next: Mountable = { ...what, props: { ...what.props, ...put } };
    // Before anything can go wrong: what went wrong before is forgotten with it.
    tell({
      kind: 'shown',
      component: adapter.nameOf(looks.component),
      look,
      looks: Object.entries(looks.states).map(([name, { script }]) => ({
        look: name,
        hasScript: script !== undefined,
      })),
      types,
      props: Object.fromEntries(Object.entries(what.props).map(([name, value]) => [name, given(value)])),
    });
    resetSpies(next.props);
    if (mounted && mounted.adapter === adapter && mounted.look === look) adapter.update(mounted.instance, next);
    else {
      const chain = chainOf(looks, look);
      resetRoutes({ ...looks.answers, ...merged(chain.map(({ answers }) => answers as never)) });
      await ready;
      prepare(looks, chain);
      await adapter.warm();
      const state = looks.states[look]!;
      const around = state.frame ?? looks.frame;
      const wrapper = around === undefined ? frame : around === false ? null : { ...frame, default: around };
      mounted = { instance: await adapter.mount(root, next, wrapper, failed), adapter, look };
    }
  }

  function clear(): void {
    mounted?.adapter.unmount(mounted.instance);
    root.replaceChildren();
    mounted = null;
    spies = {};
    localStorage.clear();
    sessionStorage.clear();
  }

  // One after the other: what is being mounted is not mounted again.
  let last: Promise<void> = Promise.resolve();
  const again = (): void => {
    last = last.then(put).catch(failed);
  };
  addEventListener('message', ({ source, data }: MessageEvent<ToStage>) => {
    if (source !== parent || data?.to !== 'sguardo-stage') return;
    if (data.kind === 'do') return repeat(data.deed);
    if (data.kind === 'point') return point(data.isOn);
    if (data.kind === 'reset') {
      last = last.then(clear).catch(failed);
    } else over = data.props;
    again();
  });
  return {
    show(next) {
      shown = next;
      again();
    },
    know(found) {
      types = found;
      again();
    },
  };
}
