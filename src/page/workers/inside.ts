/** What is put in place in a worker before its script: the time and the chance of the page that has started it. */

/** How a worker begins: the time of its page, and what its messages about time are marked with. */
export type Beginning = { start: number; now: number; mark: string };

/** What a worker says of itself: a timer is set `by` the one that runs; `asked` and `settled` are requests. */
export type FromWorker =
  | { say: 'wait'; id: number; kind: 'timer' | 'frame'; delay: number; period: number | null; by: number | null }
  | { say: 'forget'; id: number }
  | { say: 'idle'; ping: number }
  | { say: 'asked' | 'settled' | 'closed' };

/** What its page says: what time it is, which of its timers is due, and a question that is answered once it is idle. */
export type ToWorker = { now: number; fire?: number; ping?: number };

/** Of the scope of a dedicated worker what is pinned. */
type Scope = {
  postMessage(message: unknown): void;
  addEventListener(type: 'message', listener: (event: MessageEvent) => void): void;
  setTimeout: unknown;
  setInterval: unknown;
  clearTimeout: unknown;
  clearInterval: unknown;
  requestAnimationFrame: unknown;
  cancelAnimationFrame: unknown;
  close: unknown;
  fetch: typeof fetch;
  Date: DateConstructor;
  scheduler: Scheduler;
};

/** What the parts of a worker's beginning share. */
type World = {
  mark: string;
  start: number;
  /** Milliseconds since the look began, as the page said last. */
  now: number;
  /** How often the time was read since then. */
  reads: number;
  /** The timer that runs now. */
  by: number | null;
  nextId: number;
  timers: Map<number, { run: () => void; again: boolean }>;
  say(what: FromWorker): void;
  elapsed(): number;
};

/** Each part is run in the worker as text, so it may use nothing but what it is given. */
function worldOf(scope: Scope, { start, now, mark }: Beginning): World {
  const readsPerMillisecond = 20_000;
  const post = scope.postMessage.bind(scope);
  const world: World = {
    mark,
    start,
    now,
    reads: 0,
    by: null,
    nextId: 1,
    timers: new Map(),
    say: (what) => post({ [mark]: what }),
    elapsed() {
      // Reading it again and again is waiting for it.
      if (++world.reads % readsPerMillisecond === 0) world.now += 1;
      return world.now;
    },
  };
  return world;
}

/** Timers are kept by the page, whose clock fires them. */
function pinTimers(scope: Scope, world: World): void {
  const { timers, say, elapsed } = world;
  const called = (handler: TimerHandler, args: unknown[]): (() => void) =>
    typeof handler === 'function' ? () => handler(...args) : () => new Function(handler)();
  const keep = (run: () => void, kind: 'timer' | 'frame', delay: number, period: number | null): number => {
    const id = world.nextId++;
    timers.set(id, { run, again: period !== null });
    say({ say: 'wait', id, kind, delay, period, by: world.by });
    return id;
  };
  const forget = (id?: number): void => {
    if (timers.delete(Number(id))) say({ say: 'forget', id: Number(id) });
  };
  scope.setTimeout = (handler: TimerHandler, delay?: number, ...args: unknown[]) =>
    keep(called(handler, args), 'timer', Number(delay), null);
  scope.setInterval = (handler: TimerHandler, delay?: number, ...args: unknown[]) =>
    keep(called(handler, args), 'timer', Number(delay), Math.max(1, Math.trunc(Number(delay)) || 0));
  scope.clearTimeout = forget;
  scope.clearInterval = forget;
  scope.requestAnimationFrame = (callback: FrameRequestCallback) => keep(() => callback(elapsed()), 'frame', 0, null);
  scope.cancelAnimationFrame = forget;
  AbortSignal.timeout = (delay) => {
    const controller = new AbortController();
    keep(() => controller.abort(new DOMException('signal timed out', 'TimeoutError')), 'timer', delay, null);
    return controller.signal;
  };
}

/** The time stands between what the page says. */
function pinClock(scope: Scope, { start, elapsed }: World): void {
  const dateNow = (): number => Math.floor(start + elapsed());
  const Real = scope.Date;
  const Pinned: DateConstructor = new Proxy(Real, {
    apply: () => new Real(dateNow()).toString(),
    construct: (target, args, newTarget) =>
      Reflect.construct(target, args.length > 0 ? args : [dateNow()], newTarget) as object,
    get: (target, key, receiver) => (key === 'now' ? dateNow : Reflect.get(target, key, receiver)),
  });
  Object.defineProperty(Real.prototype, 'constructor', { value: Pinned, writable: true, configurable: true });
  scope.Date = Pinned;
  Performance.prototype.now = elapsed;
  Object.defineProperty(Performance.prototype, 'timeOrigin', { get: () => start, configurable: true });
  const dates = Intl.DateTimeFormat.prototype;
  const { get: format } = Object.getOwnPropertyDescriptor(dates, 'format')!;
  Object.defineProperty(dates, 'format', {
    configurable: true,
    get(this: Intl.DateTimeFormat) {
      const own = format!.call(this) as (date?: number | Date) => string;
      return (date?: number | Date) => own(date === undefined ? dateNow() : date);
    },
  });
}

/** The same numbers in every run. */
function pinChance(): void {
  let seed = 0x5347;
  const chance = (): number => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  Math.random = chance;
  const fill = Crypto.prototype.getRandomValues;
  Crypto.prototype.getRandomValues = function <T extends ArrayBufferView | null>(this: Crypto, array: T): T {
    fill.call(this, array as never);
    const bytes = new Uint8Array(array!.buffer, array!.byteOffset, array!.byteLength);
    for (let i = 0; i < bytes.length; i++) bytes[i] = Math.floor(chance() * 256);
    return array;
  };
  Crypto.prototype.randomUUID = () => {
    const digit = (one: string): string =>
      (Number(one) ^ (Math.floor(chance() * 256) & (15 >> (Number(one) / 4)))).toString(16);
    return '10000000-1000-4000-8000-100000000000'.replace(/[018]/g, digit) as ReturnType<Crypto['randomUUID']>;
  };
}

/** The page knows of requests that are under way. */
function tellRequests(scope: Scope, { say }: World): void {
  const counted = <T>(promise: Promise<T>): Promise<T> => {
    say({ say: 'asked' });
    const settled = (): void => say({ say: 'settled' });
    promise.then(settled, settled);
    return promise;
  };
  const ask = scope.fetch.bind(scope);
  scope.fetch = (...args) => counted(ask(...args));
  for (const name of ['json', 'text', 'blob', 'arrayBuffer', 'formData', 'bytes']) {
    const prototype = Response.prototype as unknown as Record<string, (this: Response) => Promise<unknown>>;
    const read = prototype[name];
    if (read)
      prototype[name] = function () {
        return counted(read.call(this));
      };
  }
  const { send } = XMLHttpRequest.prototype;
  XMLHttpRequest.prototype.send = function (body) {
    void counted(new Promise((resolve) => this.addEventListener('loadend', resolve, { once: true })));
    send.call(this, body);
  };
  const close = (scope.close as () => void).bind(scope);
  scope.close = () => {
    say({ say: 'closed' });
    close();
  };
}

/** Hears what the page says, before anybody else does. */
function listen(scope: Scope, world: World): void {
  const { mark, timers, say } = world;
  scope.addEventListener('message', (event) => {
    const told = (event.data as Record<string, ToWorker | undefined> | null)?.[mark];
    if (!told) return;
    event.stopImmediatePropagation();
    world.now = told.now;
    world.reads = 0;
    const { fire, ping } = told;
    const timer = fire === undefined ? undefined : timers.get(fire);
    if (timer && !timer.again) timers.delete(fire!);
    // The scheduler is there only once the script has begun.
    if (ping !== undefined) void scope.scheduler.postTask(() => say({ say: 'idle', ping }), { priority: 'background' });
    if (!timer) return;
    world.by = fire!;
    try {
      timer.run();
    } finally {
      world.by = null;
    }
  });
}

/** What a worker runs before its own script, as text: it has the time and the chance of its page then. */
export const inside = (beginning: Beginning): string => `{
  const world = (${worldOf})(self, ${JSON.stringify(beginning)});
  ${[pinTimers, pinClock, pinChance, tellRequests, listen].map((part) => `(${part})(self, world);`).join('\n')}
}`;
