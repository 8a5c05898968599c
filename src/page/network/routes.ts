/** The routes that are answered now. */
import { fail } from '../../core/problem/problem.ts';
import { addressOf } from '../../core/address/address.ts';
import { type Answer, type AnswerInit, type Received, repliesOf, type Reply } from '../../language/answer.ts';
import { withMethods } from '../../language/known.ts';
import { ask } from '../host/host.ts';
import { append } from '../host/natives.ts';
import { step } from '../record/step.ts';
import { checkReply } from './replies.ts';

/** A request as far as it tells routes apart. */
export type Asking = { method: string; url: string; headers: Record<string, string>; body: string | null };

/** Something that stays open: a stream, a socket. */
export type Opened = { send(what: unknown): void; end(code?: number): void };

export type Route = Answer & {
  init: AnswerInit;
  /** True for a request of this route. */
  takes(asking: Asking): boolean;
  /** What stands for the names in the route. */
  paramsOf(url: string): Record<string, string>;
  /** Which files it may be about, for whoever has to pause requests for them: `*` stands for any text. */
  files: string | null;
  held: (() => void)[];
  opened: Set<Opened>;
};

/** Requests that are no calls of HTTP have a method of their own. */
export const socketMethod = 'WS';

let routes: Route[] = [];

export const parsed = (body: string | null): unknown => {
  try {
    return body === null ? undefined : JSON.parse(body);
  } catch {
    return undefined;
  }
};

/** The operation that a request of GraphQL over HTTP asks for; null for any other request. */
export function operationOf({ method, url, body }: Asking): { kind: string; name: string } | null {
  const said = parsed(body) as { query?: unknown; operationName?: unknown } | undefined;
  const params = new URLSearchParams(method === 'GET' ? addressOf(url)?.search : '');
  const query = typeof said?.query === 'string' ? said.query : params.get('query');
  if (!query) return null;
  const wanted = typeof said?.operationName === 'string' ? said.operationName : params.get('operationName');
  const all = [...query.matchAll(/\b(query|mutation|subscription)\s+(\w+)/g)];
  const found = all.find(([, , name]) => !wanted || name === wanted) ?? all[0];
  return found ? { kind: found[1]!, name: found[2]! } : null;
}

type Pattern = Pick<Route, 'takes' | 'paramsOf' | 'files'>;

const operationRoute = (kind: string, name: string): Pattern => ({
  takes: (asking) => {
    const asked = operationOf(asking);
    return asked !== null && asked.kind === kind && asked.name === name;
  },
  paramsOf: () => ({}),
  files: null,
});

/** Web sockets are asked for at addresses of their own kind, which their routes need not name. */
const asSocket = (address: string): string => address.replace(/^http/, 'ws');

/** The plain beginning of a path, whatever comes before and after it. */
const filesOf = (path: string): string => `*${/^[^:*{}()?\\]*/.exec(path)![0]}*`;

/** `GET /api/x`, or just `/api/x` for any method; `query Berths`; `WS /feed`. @throws ProblemError `bad-step` */
function parseRoute(route: string): Pattern {
  const found = /^(?:([A-Za-z]+)\s+)?(\S+)$/.exec(route.trim());
  if (!found)
    return fail('bad-step', {
      what: `“${route}” is not a route.`,
      remedy: "Write a method and a path, as in 'POST /api/arrivals/:id', or 'query Berths' for GraphQL.",
    });
  const [, given, path = ''] = found;
  if (given && /^(query|mutation|subscription)$/.test(given)) return operationRoute(given, path);
  const method = given?.toUpperCase() ?? '*';
  try {
    const base = method === socketMethod ? asSocket(location.href) : location.href;
    const pattern = new URLPattern(path, base);
    return {
      takes: (asking) =>
        (method === '*' ? asking.method !== socketMethod : method === asking.method) && pattern.test(asking.url),
      paramsOf: (url) => ({ ...pattern.exec(url)?.pathname.groups }) as Record<string, string>,
      files: method === '*' || method === 'GET' ? filesOf(path) : null,
    };
  } catch {
    return fail('bad-step', {
      what: `“${route}” is not a route: its path is not a URLPattern.`,
      remedy: 'Write a path such as /api/berths/:id or https://example.test/*',
    });
  }
}

/** What an answer does to whatever is open. @throws ProblemError `bad-step` when nothing is */
function toOpened(route: Route, does: (one: Opened) => void): void {
  if (route.opened.size === 0)
    fail('bad-step', {
      what: `Nothing that ${route.route} answers is open.`,
      remedy: 'Open it first, by what the component does; then send to it. It stays open until it is ended.',
    });
  for (const one of [...route.opened]) does(one);
}

/** Answers a route from now on. @throws ProblemError `bad-step` for what is no route or no reply */
export function addRoute(route: string, init: AnswerInit): Answer {
  const made: Route = {
    isAnswer: true,
    route,
    calls: [],
    ...parseRoute(route),
    init,
    held: [],
    opened: new Set(),
    letGo: () =>
      step('answer', `let go ${route}`, () => {
        made.init = withoutHold(made.init);
        for (const release of made.held.splice(0)) release();
      }),
    send: (what) => step('answer', `send to ${route}`, () => toOpened(made, (one) => one.send(what))),
    end: (code) => step('answer', `end ${route}`, () => toOpened(made, (one) => one.end(code))),
  };
  for (const reply of repliesOf(init)) checkReply(route, reply);
  routes.unshift(made);
  return withMethods<Answer>(made, 'An answer', ['letGo', 'send', 'end']);
}

function withoutHold(init: AnswerInit): AnswerInit {
  if (typeof init === 'function') return async (request) => ({ ...(await init(request)), hold: false });
  const free = (reply: Reply): Reply => ({ ...reply, hold: false });
  return Array.isArray(init) ? (init as readonly Reply[]).map(free) : free(init as Reply);
}

/** The answers that there are now. */
export const routesNow = (): readonly Answer[] => routes;

/** Has the host pause requests of the page itself that routes may be about: nothing else of what it loads waits. */
export async function pauseFiles(look: number): Promise<void> {
  const answered = [...new Set(routes.flatMap(({ files }) => files ?? []))].sort();
  if (answered.length > 0) await ask(look, { do: 'surround', with: { answered } });
}

/** The routes as the look declares them, each with its method. */
export const declaredRoutes = (): string[] => routes.map(({ route }) => route);

/** The newest route that a request belongs to. */
export const routeFor = (asking: Asking): Route | undefined => routes.find((one) => one.takes(asking));

/** Notes a request with its route, and returns what the route's answers are told of it. */
export function received(route: Route, { method, url, headers, body }: Asking): Received {
  const query = Object.fromEntries(new URLSearchParams(addressOf(url)?.search));
  const made = { method, url, headers, body, json: parsed(body), query, params: route.paramsOf(url) };
  append(route.calls, made);
  return made;
}

/** Forgets all routes and sets those that a look declares. */
export function resetRoutes(declared: Record<string, AnswerInit>): Record<string, Answer> {
  for (const route of routes) {
    for (const release of route.held) release();
    for (const one of [...route.opened]) one.end();
  }
  routes = [];
  return Object.fromEntries(Object.entries(declared).map(([route, init]) => [route, addRoute(route, init)]));
}
