/** The requests of scripts: how many are under way, and whose they are. */
import type { Files } from '../../core/wire/wire.ts';
import { ask } from '../host/host.ts';
import { append, native } from '../host/natives.ts';
import { lookNumber } from '../host/settings.ts';
import { importedSoFar, isImporting, stir } from '../lazy.ts';
import { isAtWork, worksSoFar } from '../works.ts';
import { forgetAskers, noteAsker } from './askers.ts';
import { framesNow } from './frames.ts';

/**
 * Requests of one look. One that a look has left behind counts among that look's own, however late it settles, and its
 * promise never settles: nobody is there any more who could handle what it brings.
 */
export type Requests = {
  inFlight: number;
  held: number;
  /** Addresses of files that wait for the script or for the look's own time. */
  heldFiles: string[];
  events: number;
  /** Grows whenever files were found to have been asked for or to have come. */
  fileEvents: number;
  /** Files that are on their way, as the host said last. */
  loading: number;
  /** Beacons that nobody has answered yet: where they were sent to, and when. */
  beacons: { url: string; since: number }[];
  isOver: boolean;
};

const none = (): Requests => ({
  inFlight: 0,
  held: 0,
  heldFiles: [],
  events: 0,
  fileEvents: 0,
  loading: 0,
  beacons: [],
  isOver: false,
});
let requests = none();

/** A look begins or has ended: requests made so far are none of the next one's. */
export function resetRequests(): void {
  heard = [];
  forgetAskers();
  requests.isOver = true;
  requests = none();
}

/** The requests of the look that runs. */
export const requestsNow = (): Requests => requests;

/**
 * Whether anything that was asked for is under way, documents of frames, lazy imports and work of the browser's, too;
 * and a number that grows whenever one begins or settles.
 */
export type Traffic = { pending: boolean; events: number };

/** Whether a request waits for a reply that nobody holds back, and how often one has begun or settled so far. */
export function traffic(): Traffic {
  const { inFlight, held, beacons, events } = requests;
  const late = native.now() - longestBeacon;
  const isBeaconOnTheWay = beacons.some(({ since }) => since > late);
  const frames = framesNow();
  const isOwnWork = isImporting() || isAtWork();
  const pending = inFlight > held || filesOnTheWay() || frames.onTheWay || isBeaconOnTheWay || isOwnWork;
  return { pending, events: events + frames.arrived + importedSoFar() + worksSoFar() };
}

/** A number that grows whenever files were found to have been asked for or to have come. */
export const fileEvents = (): number => requests.fileEvents;

/** True while files were on their way when the host was asked last, and nobody holds them back. */
export const filesOnTheWay = (): boolean => requests.loading > requests.heldFiles.length;

let heard: (() => void)[] = [];

/** The reply to a script's request waits from now on, until the returned function is called. */
export function holdReply(): () => void {
  const own = requests;
  own.held++;
  return () => void own.held--;
}

/** A file waits from now on, until the returned function is called. */
export function holdBack(url: string): () => void {
  const own = requests;
  append(own.heldFiles, url);
  for (const hear of heard.splice(0)) hear();
  return () => void own.heldFiles.splice(own.heldFiles.indexOf(url), 1);
}

/** Resolves when a file is held back. */
export const anyHeldBack = (): Promise<void> => new Promise((resolve) => append(heard, resolve));

/** True for the address of a file that is held back. */
export const isHeldBack = (url: string): boolean => requests.heldFiles.includes(url);

/** Null until the host has been asked: the document's own files are none of a look's. */
let filesAsked: number | null = null;

/** A beacon, perhaps, is being answered. */
export function beaconArrived(url: string): void {
  const { beacons } = requests;
  const at = beacons.findIndex((one) => one.url === url);
  if (at >= 0) beacons.splice(at, 1);
}

/** The host has said how many files are on their way. */
function arrived({ loading, asked }: Files): void {
  if (requests.loading !== loading || (filesAsked !== null && filesAsked !== asked)) {
    requests.events++;
    requests.fileEvents++;
    stir();
  }
  requests.loading = loading;
  filesAsked = asked;
}

/** Learns from the host which files the page has asked for so far, and which of them are on their way. */
export async function learnFiles(): Promise<void> {
  arrived(await ask(lookNumber(), { do: 'nothing' }));
}

/**
 * Counts a request until it and the reading of its body have settled; the promise is for the look that made it only.
 */
function counted<T>(promise: Promise<T>, own: Requests): Promise<T> {
  own.inFlight++;
  own.events++;
  return new Promise((resolve, reject) => {
    const settle = <V>(tell: (value: V) => void, value: V): void => {
      own.inFlight--;
      own.events++;
      if (!own.isOver) tell(value);
    };
    promise.then(
      (value) => settle(resolve, value),
      (error: unknown) => settle(reject, error),
    );
  });
}

/** Whose a response is: its body may be read long after it came. */
const owners = new WeakMap<Response, Requests>();

type FetchArgs = Parameters<typeof fetch>;

/** Who answers requests in parts, and says at once that nothing is to be. */
let inParts: (args: FetchArgs) => Promise<Response> | null = () => null;

/** Sets who is asked first for a reply in parts. */
export const replyInParts = (reply: typeof inParts): void => {
  inParts = reply;
};

function watchFetch(): void {
  window.fetch = (...args) => {
    const own = requests;
    const [input, init] = args;
    if (input instanceof Request) noteAsker(init?.method ?? input.method, input.url);
    else noteAsker(init?.method ?? 'GET', input);
    const reply = (inParts(args) ?? native.fetch(...args)).then((response) => {
      owners.set(response, own);
      return response;
    });
    return counted(reply, own);
  };
  for (const name of ['json', 'text', 'blob', 'arrayBuffer', 'formData', 'bytes'] as const) {
    const prototype = Response.prototype as unknown as Record<string, (this: Response) => Promise<unknown>>;
    const read = prototype[name];
    if (!read) continue;
    prototype[name] = function () {
      return counted(read.call(this), owners.get(this) ?? requests);
    };
  }
}

const xhrEvents = ['readystatechange', 'progress', 'load', 'error', 'abort', 'timeout', 'loadend'] as const;

function watchXhr(): void {
  window.XMLHttpRequest = new Proxy(XMLHttpRequest, {
    construct(target, args, newTarget) {
      const request = Reflect.construct(target, args, newTarget) as XMLHttpRequest;
      const own = requests;
      // Registered before anybody else can, so that nobody hears of a request whose look has ended.
      for (const name of xhrEvents)
        native.addEventListener.call(request, name, (event) => own.isOver && event.stopImmediatePropagation());
      return request;
    },
  });
  const { open, send } = XMLHttpRequest.prototype;
  const asked = new WeakMap<XMLHttpRequest, [method: string, url: string | URL]>();
  XMLHttpRequest.prototype.open = function (method: string, url: string | URL, ...rest: unknown[]) {
    asked.set(this, [method, url]);
    (open as (...all: unknown[]) => void).call(this, method, url, ...rest);
  };
  XMLHttpRequest.prototype.send = function (body) {
    const own = requests;
    const by = asked.get(this);
    if (by) noteAsker(...by);
    const ended = new Promise((resolve) =>
      native.addEventListener.call(this, 'loadend', resolve, { once: true, capture: true }),
    );
    void counted(ended, own);
    send.call(this, body);
  };
}

/** A beacon that has not reached its host after so long got lost on its way, in real milliseconds. */
const longestBeacon = 15_000;

/** Beacons overtake nobody, and are overtaken: each counts until somebody answers it. */
function watchBeacons(): void {
  const send = navigator.sendBeacon.bind(navigator);
  // One that the page's own policy refuses never gets there.
  document.addEventListener('securitypolicyviolation', ({ blockedURI }) => beaconArrived(blockedURI));
  navigator.sendBeacon = (url, data) => {
    noteAsker('POST', url);
    const sent = send(url, data);
    const own = requests;
    if (sent) append(own.beacons, { url: new URL(url, location.href).href, since: native.now() });
    return sent;
  };
}

/** Called once, before anything of the project runs. */
export function watchRequests(): void {
  watchFetch();
  watchXhr();
  watchBeacons();
}
