/** The routes that are answered now. */
import { fail } from '../../core/problem/problem.ts';
import type { Answer, AnswerInit } from '../../language/answer.ts';
import { step } from '../record/step.ts';

export type Route = Answer & { method: string; pattern: URLPattern; init: AnswerInit; held: (() => void)[] };

let routes: Route[] = [];

/** `GET /api/x`, or just `/api/x` for any method. */
function parseRoute(route: string): { method: string; pattern: URLPattern } {
  const found = /^(?:([A-Za-z]+)\s+)?(\S+)$/.exec(route.trim());
  if (!found)
    return fail('bad-step', {
      what: `“${route}” is not a route.`,
      remedy: 'Write a method and a path: POST /api/arrivals/:id',
    });
  try {
    return { method: found[1]?.toUpperCase() ?? '*', pattern: new URLPattern(found[2]!, location.href) };
  } catch {
    return fail('bad-step', {
      what: `“${route}” is not a route: its path is not a URLPattern.`,
      remedy: 'Write a path such as /api/berths/:id or https://example.test/*',
    });
  }
}

function checkInit(route: string, { status = 200, headers = {}, delay = 0 }: AnswerInit): void {
  if (typeof delay !== 'number' || !(delay >= 0 && delay < 1e9))
    fail('bad-step', {
      what: `The answer to ${route} has the delay ${String(delay)}.`,
      remedy: 'Use a number of milliseconds, such as 300.',
    });
  if (!Number.isInteger(status) || status < 200 || status > 599)
    fail('bad-step', {
      what: `The answer to ${route} has the status ${String(status)}.`,
      remedy: 'Use a whole number from 200 to 599, or unreachable: true.',
    });
  for (const [name, value] of Object.entries(headers))
    if (!/^[\w!#$%&'*+.^`|~-]+$/.test(name) || typeof value !== 'string' || /[\r\n\0]/.test(value))
      fail('bad-step', {
        what: `The answer to ${route} has the header “${name}”, which cannot be sent.`,
        remedy: 'Header names are tokens, and their values are texts on one line.',
      });
}

/** Answers a route from now on. @throws ProblemError `bad-step` for what is no route or no reply */
export function addRoute(route: string, init: AnswerInit): Route {
  const made: Route = {
    isAnswer: true,
    route,
    calls: [],
    ...parseRoute(route),
    init: { ...init },
    held: [],
    letGo: () =>
      step('answer', `let go ${route}`, () => {
        made.init.hold = false;
        for (const release of made.held.splice(0)) release();
      }),
  };
  checkInit(route, init);
  routes.unshift(made);
  return made;
}

/** The answers that there are now. */
export const routesNow = (): readonly Answer[] => routes;

/** The routes as the look declares them, each with its method. */
export const declaredRoutes = (): string[] =>
  routes.map(({ method, route }) => (route.includes(' ') || method === '*' ? route : `${method} ${route}`));

/** The newest route that a request belongs to. */
export const routeFor = (method: string, url: string): Route | undefined =>
  routes.find((one) => (one.method === '*' || one.method === method) && one.pattern.test(url));

/** Forgets all routes and sets those that a look declares. */
export function resetRoutes(declared: Record<string, AnswerInit>): Record<string, Answer> {
  for (const route of routes) for (const release of route.held) release();
  routes = [];
  return Object.fromEntries(Object.entries(declared).map(([route, init]) => [route, addRoute(route, init)]));
}
