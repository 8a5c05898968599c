/** Workers that a look has started: they live on its time, and time waits until they have nothing left to do. */
import { beginWorker } from '../../core/wire/stage.ts';
import { append, native } from '../host/natives.ts';
import { requestsNow } from '../network/requests.ts';
import type { Realm } from '../pins/clock.ts';
import { beganAt, forget, timeNow, wait, waitFor } from '../time/time.ts';
import { type FromWorker, inside, type ToWorker } from './inside.ts';

/** A worker, what it waits for by its own ids, and who waits until it is idle. */
type Live = {
  worker: Worker;
  waits: Map<number, number>;
  /** How often its timers have set one another, by their ids. */
  generations: Map<number, number>;
  pings: Map<number, () => void>;
  /** The requests of the look that has started it. */
  requests: ReturnType<typeof requestsNow>;
};

const { postMessage, terminate } = Worker.prototype;

/** What messages about time are marked with; nobody else's have it. */
const mark = `sguardo ${crypto.randomUUID()}`;

let live: Live[] = [];
/** Grows with whatever workers say. */
let heard = 0;
let nextPing = 1;

const drop = (gone: Live): void => {
  live = live.filter((one) => one !== gone);
  for (const id of gone.waits.values()) forget(id);
  for (const resolve of gone.pings.values()) resolve();
};

function tell({ worker }: Live, what: ToWorker): void {
  postMessage.call(worker, { [mark]: what });
}

/** Lets a worker's timer be due in the look's time. */
function keep(one: Live, { id, kind, delay, period, by }: FromWorker & { say: 'wait' }): void {
  const generation = (one.generations.get(by ?? 0) ?? 0) + 1;
  one.generations.set(id, generation);
  const fire = (): void => {
    if (period === null) one.waits.delete(id);
    tell(one, { now: timeNow(), fire: id });
  };
  one.waits.set(id, kind === 'frame' ? waitFor('frame', fire, generation) : wait(delay, period, fire, generation));
}

function hear(one: Live, said: FromWorker): void {
  switch (said.say) {
    case 'wait':
      keep(one, said);
      return;
    case 'forget':
      forget(one.waits.get(said.id) ?? 0);
      return;
    case 'asked':
      one.requests.inFlight++;
      one.requests.events++;
      return;
    case 'settled':
      one.requests.inFlight--;
      one.requests.events++;
      return;
    case 'idle':
      one.pings.get(said.ping)?.();
      one.pings.delete(said.ping);
      return;
    case 'closed':
      drop(one);
  }
}

const known = new WeakMap<Worker, Live>();

/** Begins to listen to a worker, before anybody else does. */
function follow(worker: Worker): void {
  const one: Live = {
    worker,
    waits: new Map(),
    generations: new Map(),
    pings: new Map(),
    requests: requestsNow(),
  };
  known.set(worker, one);
  append(live, one);
  native.addEventListener.call(worker, 'message', (event) => {
    const said = ((event as MessageEvent).data as Record<string, FromWorker | undefined> | null)?.[mark];
    if (said?.say !== 'idle') heard++;
    if (!said) return;
    event.stopImmediatePropagation();
    if (live.includes(one)) hear(one, said);
  });
  // A script that could not be loaded never answers.
  native.addEventListener.call(worker, 'error', (event) => event instanceof ErrorEvent || drop(one));
}

/** Its time is that of whoever speaks to it, and ends when it ends. */
function pinCalls(prototype: Worker): void {
  prototype.postMessage = function (this: Worker, ...args: Parameters<Worker['postMessage']>) {
    const one = known.get(this);
    if (one) tell(one, { now: timeNow() });
    postMessage.apply(this, args);
  } as Worker['postMessage'];
  prototype.terminate = function () {
    const one = known.get(this);
    if (one) drop(one);
    terminate.call(this);
  };
}

/** Workers that are started in a window from now on live on the look's time. */
export function pinWorkers(realm: Realm): void {
  pinCalls(realm.Worker.prototype);
  realm.Worker = new Proxy(realm.Worker, {
    construct(target, [url, options]: ConstructorParameters<typeof Worker>, newTarget) {
      const code = inside({ start: beganAt(), now: timeNow(), mark });
      const name = beginWorker(code, String(options?.name ?? ''));
      const worker = Reflect.construct(target, [url, { ...options, name }], newTarget) as Worker;
      follow(worker);
      return worker;
    },
  });
}

/** How long a worker may keep busy before it is not waited for any more, in real milliseconds. */
const mostBusy = 10_000;

/** Resolves with true once a worker has nothing left to do. */
const isIdle = (one: Live): Promise<boolean> =>
  new Promise((resolve) => {
    const timer = native.setTimeout(() => {
      live = live.filter((other) => other !== one);
      resolve(false);
    }, mostBusy);
    const ping = nextPing++;
    one.pings.set(ping, () => {
      native.clearTimeout(timer);
      resolve(true);
    });
    tell(one, { now: timeNow(), ping });
  });

/** True while there are workers that time waits for. */
export const haveWorkers = (): boolean => live.length > 0;

/** A number that grows whenever a worker has said something. */
export const workersHeard = (): number => heard;

/** Resolves with true once no worker has anything left to do; with false when one of them never ends. */
export const workersIdle = async (): Promise<boolean> => (await Promise.all(live.map(isIdle))).every(Boolean);

/** Ends every worker, and says whether there were any. */
export function endWorkers(): boolean {
  const any = live.length > 0;
  for (const one of live) one.worker.terminate();
  return any;
}
