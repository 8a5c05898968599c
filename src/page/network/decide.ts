/** Decides what becomes of each request that the browser has paused. */
import { append } from '../host/natives.ts';
import { addressOf } from '../../core/address/address.ts';
import type { AskedRequest, Reply } from '../../core/wire/wire.ts';
import { unansweredNote } from '../../core/problem/notes.ts';
import { nearest } from '../../core/text/nearest.ts';
import type { AnswerInit } from '../../language/answer.ts';
import { answerRequest, handleRequests } from '../host/host.ts';
import { networkOrigins } from '../host/settings.ts';
import { type Recording, recordingNow } from '../record/recording.ts';
import { wait } from '../time/time.ts';
import { beaconArrived, requestsNow } from './requests.ts';
import { declaredRoutes, type Route, routeFor } from './routes.ts';

function toReply(init: AnswerInit, asked: AskedRequest): Reply {
  const headers: Record<string, string> = { 'access-control-allow-origin': '*', ...init.headers };
  const { status = 200 } = init;
  if (init.json !== undefined)
    return { status, headers: { 'content-type': 'application/json', ...headers }, body: JSON.stringify(init.json) };
  const isStream = asked.headers.Accept === 'text/event-stream';
  const type = isStream ? 'text/event-stream' : 'text/plain';
  return { status, headers: { 'content-type': type, ...headers }, body: String(init.body ?? '') };
}

const parsed = (body: string | null): unknown => {
  try {
    return body === null ? undefined : JSON.parse(body);
  } catch {
    return undefined;
  }
};

type Close = (title: string, level: 'info' | 'warning' | 'error') => void;

/** Marks a request on the network lane; the returned function says how it ended. */
function mark(recording: Recording | null, asked: AskedRequest, path: string): Close {
  const at = recording?.now() ?? 0;
  const title = `${asked.method} ${path}`;
  const detail = asked.body ?? undefined;
  const update = recording?.mark({ lane: 'network', at, took: null, title, level: 'info', detail });
  return (end, level) =>
    update?.({ took: Math.round((recording!.now() - at) * 10) / 10, title: `${title} → ${end}`, level });
}

const notFound: Reply = {
  status: 404,
  headers: { 'content-type': 'application/problem+json' },
  body: JSON.stringify({ title: 'No answer', status: 404 }),
};

/** A request that no route answers: files and allowed origins go on, the rest stays inside. */
function unanswered(asked: AskedRequest, recording: Recording | null, path: string, close: Close): void {
  const url = addressOf(asked.url);
  const isOwn = url?.origin === location.origin;
  if (asked.asset || (url && networkOrigins().includes(url.origin))) {
    answerRequest(asked.id, 'proceed');
    close(asked.asset ? 'file' : 'sent to the network', asked.asset ? 'info' : 'warning');
    if (!asked.asset)
      recording?.note(`It asks the real network (${url?.origin}): what that brings may differ from run to run.`);
    return;
  }
  const route = isOwn ? url.pathname : `${url?.origin ?? ''}${url?.pathname ?? ''}`;
  const { method } = asked;
  const near = nearest(`${method} ${route}`, declaredRoutes());
  recording?.note(unansweredNote({ method, path, route, origin: isOwn || !url ? null : url.origin, near }));
  answerRequest(asked.id, isOwn ? notFound : 'refuse');
  close(isOwn ? '404, no answer' : 'refused', 'warning');
}

/** A request that waits for the script or for the look's own time keeps nobody else waiting. */
async function heldUntil(wait: (release: () => void) => void): Promise<void> {
  const own = requestsNow();
  own.held++;
  await new Promise<void>(wait);
  own.held--;
}

async function answered(route: Route, asked: AskedRequest, close: Close): Promise<void> {
  const { method, url, headers, body } = asked;
  const params = { ...route.pattern.exec(url)?.pathname.groups } as Record<string, string>;
  const query = Object.fromEntries(new URLSearchParams(addressOf(url)?.search));
  append(route.calls, { method, url, headers, body, json: parsed(body), query, params });
  if (route.init.hold) {
    await heldUntil((release) => append(route.held, release));
  }
  const { delay } = route.init;
  if (delay) await heldUntil((release) => void wait(delay, null, release));
  if (route.init.unreachable) {
    answerRequest(asked.id, 'refuse');
    close('unreachable', 'error');
    return;
  }
  const reply = toReply(route.init, asked);
  answerRequest(asked.id, reply);
  close(String(reply.status), reply.status >= 400 ? 'error' : 'info');
}

async function decide(asked: AskedRequest): Promise<void> {
  const recording = recordingNow();
  const url = addressOf(asked.url);
  const path = url?.origin === location.origin ? url.pathname + url.search : asked.url;
  requestsNow().events++;
  beaconArrived(asked.url);
  const close = mark(recording, asked, path);
  const route = routeFor(asked.method, asked.url);
  if (route) await answered(route, asked, close);
  else unanswered(asked, recording, path, close);
}

/** Called once, before anything of the project runs. */
export function decideRequests(): void {
  handleRequests((asked) => {
    decide(asked).catch((error: Error) => {
      recordingNow()?.note(`The answer to ${asked.method} ${asked.url} could not be sent: ${error.message}`);
      answerRequest(asked.id, 'refuse');
    });
  });
}
