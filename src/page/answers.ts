/** Answers: stubbed network replies, given to requests before they leave the browser. */
import { fail } from '../core/problem.ts';
import type { AskedRequest, Reply } from '../core/wire.ts';
import { answerRequest, handleRequests } from './host.ts';
import { recordingNow, step } from './record.ts';
import type { Traffic } from './still.ts';

/** What is replied. Without a status it is 200; `json` sets the body and its type. */
export type AnswerInit = {
  status?: number;
  json?: unknown;
  body?: string;
  headers?: Record<string, string>;
  /** Keeps requests waiting until `letGo()`: a loading state. */
  hold?: boolean;
  /** Fails as if the server could not be reached. */
  unreachable?: boolean;
};

/** A request as the component made it. */
export type Received = { method: string; url: string; headers: Record<string, string>; body: string | null; json: unknown };

export type Answer = {
  readonly isAnswer: true;
  readonly route: string;
  /** The requests it was given, oldest first. */
  readonly calls: Received[];
  /** Sends the replies that were held; later ones are not held any more. */
  letGo(): Promise<void>;
};

type Route = Answer & { method: string; pattern: URLPattern; init: AnswerInit; held: (() => void)[] };

let routes: Route[] = [];
/** Requests of the look that runs. One that an earlier look has left behind counts among that look's own, however late it settles. */
type Counts = { inFlight: number; held: number; events: number };
const noRequests = (): Counts => ({ inFlight: 0, held: 0, events: 0 });
let counts = noRequests();

/** `GET /api/x`, or just `/api/x` for any method. */
function parseRoute(route: string): { method: string; pattern: URLPattern } {
  const found = /^(?:([A-Za-z]+)\s+)?(\S+)$/.exec(route.trim());
  if (!found) return fail('bad-step', { what: `“${route}” is not a route.`, remedy: 'Write a method and a path: POST /api/arrivals/:id' });
  try {
    return { method: found[1]?.toUpperCase() ?? '*', pattern: new URLPattern(found[2]!, location.href) };
  } catch {
    return fail('bad-step', {
      what: `“${route}” is not a route: its path is no URLPattern.`,
      remedy: 'Write a path such as /api/berths/:id or https://example.test/*',
    });
  }
}

function add(route: string, init: AnswerInit): Route {
  const calls: Received[] = [];
  const made: Route = {
    isAnswer: true,
    route,
    calls,
    ...parseRoute(route),
    init: { ...init },
    held: [],
    letGo: () =>
      step('answer', `let go ${route}`, async () => {
        made.init.hold = false;
        for (const release of made.held.splice(0)) release();
      }),
  };
  routes.unshift(made);
  return made;
}

/** Answers requests of a route from now on; the newest answer to a route wins. */
export function answer(route: string, init: AnswerInit = {}): Promise<Answer> {
  return step('answer', `answer ${route} with ${init.unreachable ? 'nothing: unreachable' : (init.status ?? 200)}${init.hold ? ', held' : ''}`, () =>
    add(route, init),
  );
}

export const isAnswer = (value: unknown): value is Answer => typeof value === 'object' && value !== null && (value as Partial<Answer>).isAnswer === true;

/** Forgets all answers and sets those that a look declares. */
export function resetAnswers(declared: Record<string, AnswerInit>): Record<string, Answer> {
  for (const route of routes) for (const release of route.held) release();
  routes = [];
  counts = noRequests();
  return Object.fromEntries(Object.entries(declared).map(([route, init]) => [route, add(route, init)]));
}

/** Whether a request waits for a reply that nobody holds back, and how often one has begun or settled so far. */
export const traffic = (): Traffic => ({ pending: counts.inFlight > counts.held, events: counts.events });

function toReply(init: AnswerInit): Reply {
  const headers: Record<string, string> = { 'access-control-allow-origin': '*', ...init.headers };
  if (init.json !== undefined)
    return { status: init.status ?? 200, headers: { 'content-type': 'application/json', ...headers }, body: JSON.stringify(init.json) };
  return { status: init.status ?? 200, headers: { 'content-type': 'text/plain', ...headers }, body: init.body ?? '' };
}

const parsed = (body: string | null): unknown => {
  try {
    return body === null ? undefined : JSON.parse(body);
  } catch {
    return undefined;
  }
};

async function decide(asked: AskedRequest): Promise<void> {
  const recording = recordingNow();
  const url = new URL(asked.url);
  const path = url.origin === location.origin ? url.pathname + url.search : asked.url;
  const at = recording?.now() ?? 0;
  const update = recording?.mark({ lane: 'network', at, took: null, title: `${asked.method} ${path}`, level: 'info', detail: asked.body ?? undefined });
  const close = (title: string, level: 'info' | 'warning' | 'error'): void => {
    if (recordingNow() === recording && recording)
      update?.({ took: Math.round((recording.now() - at) * 10) / 10, title: `${asked.method} ${path} → ${title}`, level });
  };
  const route = routes.find((one) => (one.method === '*' || one.method === asked.method) && one.pattern.test(asked.url));
  if (!route) {
    if (asked.asset || url.origin !== location.origin) {
      answerRequest(asked.id, 'proceed');
      close(asked.asset ? 'file' : 'sent to the network', asked.asset ? 'info' : 'warning');
      return;
    }
    recording?.notes.push(`${asked.method} ${path} has no answer, so it got 404. Add answers: { '${asked.method} ${url.pathname}': { json: … } } to the look.`);
    answerRequest(asked.id, {
      status: 404,
      headers: { 'content-type': 'application/problem+json' },
      body: JSON.stringify({ title: 'No answer', status: 404 }),
    });
    close('404, no answer', 'warning');
    return;
  }
  route.calls.push({ method: asked.method, url: asked.url, headers: asked.headers, body: asked.body, json: parsed(asked.body) });
  if (route.init.hold) {
    const own = counts;
    own.held++;
    await new Promise<void>((resolve) => route.held.push(resolve));
    own.held--;
  }
  if (route.init.unreachable) {
    answerRequest(asked.id, 'refuse');
    close('unreachable', 'error');
    return;
  }
  const reply = toReply(route.init);
  answerRequest(asked.id, reply);
  close(String(reply.status), reply.status >= 400 ? 'error' : 'info');
}

/** Counts a request until it and the reading of its body have settled. */
function counted<T>(promise: Promise<T>): Promise<T> {
  const own = counts;
  own.inFlight++;
  own.events++;
  const settle = (): void => {
    own.inFlight--;
    own.events++;
  };
  promise.then(settle, settle);
  return promise;
}

/** Called once, before anything of the project runs. */
export function watchRequests(): void {
  handleRequests((asked) => void decide(asked));
  const realFetch = window.fetch.bind(window);
  window.fetch = (...args) => counted(realFetch(...args));
  for (const name of ['json', 'text', 'blob', 'arrayBuffer', 'formData'] as const) {
    const read = Response.prototype[name] as () => Promise<unknown>;
    (Response.prototype as unknown as Record<string, unknown>)[name] = function (this: Response) {
      return counted(read.call(this));
    };
  }
  const send = XMLHttpRequest.prototype.send;
  XMLHttpRequest.prototype.send = function (body) {
    void counted(new Promise((resolve) => this.addEventListener('loadend', resolve, { once: true })));
    send.call(this, body);
  };
}
