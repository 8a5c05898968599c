/**
 * Holds still what would make two runs differ (clock, randomness), keeps dialogs from blocking the page, and
 * remembers what a look leaves behind, so that the next one starts clean. Installed before any look file is evaluated.
 */

/** Taken before anything of the project runs: the page's own work never goes through replaced functions. */
export const native = {
  now: performance.now.bind(performance),
  setTimeout: window.setTimeout.bind(window),
  clearTimeout: window.clearTimeout.bind(window),
  requestAnimationFrame: window.requestAnimationFrame.bind(window),
  Date,
};

type Report = (level: 'warning' | 'error', text: string) => void;

let clockStart = 0;
let clockOrigin = native.now();
let seed = 1;
let report: Report = () => {};

/** Timers that have not fired yet, with the time at which they will. */
const timers = new Map<number, number>();
const intervals = new Set<number>();
const frames = new Set<number>();
type Listening = { target: EventTarget; type: string; listener: EventListenerOrEventListenerObject; options?: boolean | AddEventListenerOptions };
let listening: Listening[] = [];
let tracking = false;

/** mulberry32: small, fast, and good enough to stand in for chance. */
function chance(): number {
  seed = (seed + 0x6d2b79f5) | 0;
  let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
}

const pinnedNow = (): number => Math.floor(clockStart + native.now() - clockOrigin);

function pinClock(): void {
  const Real = native.Date;
  const Pinned = function (this: unknown, ...args: unknown[]) {
    if (!new.target) return new Real(pinnedNow()).toString();
    const target = new.target as unknown as DateConstructor;
    const made = args.length === 0 ? new Real(pinnedNow()) : Reflect.construct(Real, args);
    return target === Pinned ? made : Object.setPrototypeOf(made, target.prototype as object);
  } as unknown as DateConstructor;
  Object.setPrototypeOf(Pinned, Real);
  Object.defineProperties(Pinned, {
    prototype: { value: Real.prototype },
    now: { value: pinnedNow, writable: true },
    name: { value: 'Date' },
    length: { value: 7 },
  });
  window.Date = Pinned;
}

function pinChance(): void {
  Math.random = chance;
  crypto.getRandomValues = <T extends ArrayBufferView | null>(array: T): T => {
    if (array) {
      const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
      for (let i = 0; i < bytes.length; i++) bytes[i] = Math.floor(chance() * 256);
    }
    return array;
  };
  crypto.randomUUID = () => {
    const hex = Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte, i) =>
      (i === 6 ? (byte & 15) | 64 : i === 8 ? (byte & 63) | 128 : byte).toString(16).padStart(2, '0'),
    ).join('');
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}` as ReturnType<Crypto['randomUUID']>;
  };
}

/** A real dialog would block the page; these are noted and answered as by somebody who presses Escape. */
function pinDialogs(): void {
  const dismissed = (name: string, text: unknown): void =>
    report(
      'warning',
      `${name}(“${String(text ?? '')}”) opened a dialog, which blocks a page; it was dismissed. To test it, give the component a function of its own to call, and a spy() for it.`,
    );
  window.alert = (text?: unknown) => dismissed('alert', text);
  window.confirm = (text?: unknown) => {
    dismissed('confirm', text);
    return false;
  };
  window.prompt = (text?: unknown) => {
    dismissed('prompt', text);
    return null;
  };
  window.print = () => dismissed('print', '');
}

function trackTimers(): void {
  const real = { interval: window.setInterval.bind(window), clear: window.clearInterval.bind(window), cancel: window.cancelAnimationFrame.bind(window) };
  window.setTimeout = ((handler: TimerHandler, delay?: number, ...args: unknown[]) => {
    const id = native.setTimeout(
      (...given: unknown[]) => {
        timers.delete(id);
        if (typeof handler === 'function') handler(...given);
        else new Function(handler)();
      },
      delay,
      ...args,
    );
    timers.set(id, native.now() + Math.max(0, delay ?? 0));
    return id;
  }) as typeof window.setTimeout;
  window.clearTimeout = (id) => {
    timers.delete(id as number);
    native.clearTimeout(id);
  };
  window.setInterval = ((handler: TimerHandler, delay?: number, ...args: unknown[]) => {
    const id = real.interval(handler, delay, ...args);
    intervals.add(id);
    return id;
  }) as typeof window.setInterval;
  window.clearInterval = (id) => {
    intervals.delete(id as number);
    real.clear(id);
  };
  window.requestAnimationFrame = (callback) => {
    const id = native.requestAnimationFrame((time) => {
      frames.delete(id);
      callback(time);
    });
    frames.add(id);
    return id;
  };
  window.cancelAnimationFrame = (id) => {
    frames.delete(id);
    real.cancel(id);
  };
}

const databases = new Set<string>();
const cacheNames = new Set<string>();

function trackStorage(): void {
  const openDatabase = IDBFactory.prototype.open;
  IDBFactory.prototype.open = function (name, version) {
    databases.add(name);
    return openDatabase.call(this, name, version);
  };
  const openCache = CacheStorage.prototype.open;
  CacheStorage.prototype.open = function (name) {
    cacheNames.add(name);
    return openCache.call(this, name);
  };
}

function trackListeners(): void {
  const add = EventTarget.prototype.addEventListener;
  EventTarget.prototype.addEventListener = function (this: EventTarget | undefined, type, listener, options) {
    const target = this ?? window;
    if (tracking && listener && (target === window || target === document || target === document.documentElement || target === document.body)) {
      listening.push({ target, type, listener, options });
    }
    add.call(target, type, listener, options);
  };
}

const start = { url: location.href, title: document.title };
let headNodes: Set<Node> | null = null;

/**
 * True for a style element that a styling library fills as components are first rendered: it remembers what it has
 * inserted, so the element must outlive the look. Such elements carry a data attribute or are filled through CSSOM.
 */
const isKeptByLibrary = (node: Node): boolean =>
  node instanceof HTMLStyleElement && (Object.keys(node.dataset).length > 0 || (node.textContent === '' && (node.sheet?.cssRules.length ?? 0) > 0));

/** Removes every attribute of an element: looks start with a bare html and body. */
function bare(element: Element): void {
  for (const { name } of [...element.attributes]) if (!(element === document.documentElement && name === 'lang')) element.removeAttribute(name);
}

/** Sets the clock and chance to where every look starts, and begins to remember what it leaves behind. */
export function beginLook(now: number, to: Report): void {
  clockStart = now;
  clockOrigin = native.now();
  seed = 0x5347;
  report = to;
  headNodes ??= new Set(document.head.childNodes);
  tracking = true;
}

/** About a frame: what is due within it belongs to what is being shown. */
const soon = 20;

/** The timers of the project that are about to fire. */
export function timersDueSoon(): number[] {
  const until = native.now() + soon;
  return [...timers].filter(([, due]) => due <= until).map(([id]) => id);
}

/** True until a timer has fired or was cleared. */
export const isWaiting = (timer: number): boolean => timers.has(timer);

/** Resolves when timers that were due at once have fired. */
export const dueTimers = (): Promise<void> => new Promise((resolve) => void native.setTimeout(resolve, 1));

/** A cookie's path is where the document was loaded from, unless it was given another one. */
function clearCookie(name: string): void {
  // biome-ignore lint/suspicious/noDocumentCookie: the Cookie Store API is asynchronous
  if (name) for (const path of ['', ';path=/']) document.cookie = `${name}=;expires=Thu, 01 Jan 1970 00:00:00 GMT${path}`;
}

/** Takes back what the look left in the document, its timers and its storage. */
export async function endLook(root: Element): Promise<void> {
  tracking = false;
  for (const id of timers.keys()) native.clearTimeout(id);
  for (const id of intervals) clearInterval(id);
  for (const id of frames) cancelAnimationFrame(id);
  timers.clear();
  intervals.clear();
  frames.clear();
  for (const { target, type, listener, options } of listening) target.removeEventListener(type, listener, options);
  listening = [];
  for (const node of [...document.body.childNodes]) if (node !== root) node.remove();
  for (const node of [...document.head.childNodes]) if (!headNodes?.has(node) && !isKeptByLibrary(node)) node.remove();
  bare(document.documentElement);
  bare(document.body);
  document.title = start.title;
  window.getSelection()?.removeAllRanges();
  (document.activeElement as HTMLElement | null)?.blur?.();
  window.scrollTo(0, 0);
  if (location.href !== start.url) history.replaceState(null, '', start.url);
  try {
    localStorage.clear();
    sessionStorage.clear();
    for (const cookie of document.cookie.split(';')) clearCookie(cookie.split('=')[0]!.trim());
    // Asking for databases takes longer than a look; only looks that opened one are asked.
    for (const name of databases) indexedDB.deleteDatabase(name);
    for (const name of cacheNames) await caches.delete(name);
    databases.clear();
    cacheNames.clear();
  } catch {
    // A page without an origin of its own has no storage to clear.
  }
}

/** Called once, before the look file. `address` is what the component sees as the page's own. */
export function pin(address: string): void {
  history.replaceState(null, '', address);
  start.url = location.href;
  pinClock();
  pinChance();
  pinDialogs();
  trackTimers();
  trackListeners();
  trackStorage();
}
