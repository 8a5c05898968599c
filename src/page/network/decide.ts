/** Decides what becomes of each request that the browser has paused. */
import { isToFail } from '../challenge/challenge.ts';
import { addressOf } from '../../core/address/address.ts';
import { unansweredNote } from '../../core/problem/notes.ts';
import { problem, toProblem } from '../../core/problem/problem.ts';
import { nearest } from '../../core/text/nearest.ts';
import { errorInWords } from '../../core/value/show.ts';
import type { AskedRequest, Reply as Sent } from '../../core/wire/wire.ts';
import type { Reply } from '../../language/answer.ts';
import { answerRequest, handleRequests } from '../host/host.ts';
import { append } from '../host/natives.ts';
import { stackOf } from '../host/stack.ts';
import { failsUnanswered, isOnline, networkOrigins } from '../host/settings.ts';
import { recordingNow } from '../record/recording.ts';
import { raise } from '../record/trouble.ts';
import { nextFrame } from '../time/frame.ts';
import { wait } from '../time/time.ts';
import { askerOf } from './askers.ts';
import { eventText, replyTo, sentOf } from './replies.ts';
import { beaconArrived, holdBack, holdReply, requestsNow } from './requests.ts';
import { type Asking, declaredRoutes, operationOf, received, type Route, routeFor, socketMethod } from './routes.ts';

/** An address as people write it: without the page's own origin. */
function pathOf(address: string): string {
  const url = addressOf(address);
  return url?.host === location.host ? url.pathname + url.search : address;
}

export type Close = (title: string, level: 'info' | 'warning' | 'error') => void;

/** Marks a request on the network lane; the returned function says how it ended. */
export function markRequest(asked: Asking): Close {
  const recording = recordingNow();
  const path = pathOf(asked.url);
  const at = recording?.now() ?? 0;
  const title = `${asked.method} ${path}`;
  const detail = asked.body ?? undefined;
  const update = recording?.mark({ lane: 'network', at, took: null, title, level: 'info', detail });
  return (end, level) =>
    update?.({ took: Math.round((recording!.now() - at) * 10) / 10, title: `${title} → ${end}`, level });
}

const notFound: Sent = {
  status: 404,
  headers: { 'content-type': 'application/problem+json' },
  body: JSON.stringify({ title: 'No answer', status: 404 }),
};

/** The reply of a server that has failed, for a look that is challenged. */
const failed: Sent = {
  status: 500,
  headers: { 'content-type': 'application/problem+json' },
  body: JSON.stringify({ title: 'Internal Server Error', status: 500 }),
};

/**
 * Says of a request that no route answers it, and where it was made: the look fails, unless the project wants a note of
 * it only.
 */
export function tellUnanswered(asked: Asking, stack: string | null): void {
  const url = addressOf(asked.url);
  const isOwn = url?.host === location.host;
  const operation = operationOf(asked);
  const path =
    isOwn && url ? url.pathname : `${url?.origin === 'null' ? '' : (url?.origin ?? '')}${url?.pathname ?? ''}`;
  const route = operation ? `${operation.kind} ${operation.name}` : `${asked.method} ${path}`;
  const details = {
    request: `${asked.method} ${pathOf(asked.url)}`,
    came: asked.method === socketMethod || !isOwn ? 'it was refused: looks reach no network' : 'it got 404',
    near: nearest(`${route}${url?.search ?? ''}`, declaredRoutes()) ?? nearest(route, declaredRoutes()) ?? '',
    line: `answers: { '${route}': { ${operation ? 'data' : asked.method === socketMethod ? 'messages' : 'json'}: … } }`,
    origin: isOwn || !url ? '' : url.origin,
  };
  const wrong = problem('request-unanswered', details);
  if (failsUnanswered()) raise('error', wrong, stack);
  else recordingNow()?.witness(unansweredNote(wrong));
}

/** A request that no route answers: files and allowed origins go on, the rest stays inside. */
function unanswered(asked: AskedRequest, close: Close): void {
  const url = addressOf(asked.url);
  const isOwn = url?.origin === location.origin;
  if (asked.isFile && isOwn) {
    answerRequest(asked.id, 'proceed');
    close('file', 'info');
    return;
  }
  if (asked.asset || (url && networkOrigins().includes(url.origin))) {
    answerRequest(asked.id, 'proceed');
    close(asked.asset ? 'file' : 'sent to the network', asked.asset ? 'info' : 'warning');
    if (!asked.asset)
      recordingNow()?.witness(
        `It asks the real network (${url?.origin}): what that brings may differ from run to run.`,
      );
    return;
  }
  answerRequest(asked.id, isOwn ? notFound : 'refuse');
  close(isOwn ? '404, no answer' : 'refused', 'warning');
  tellUnanswered(asked, askerOf(asked));
}

/** A request that waits for the script or for the look's own time keeps nobody else waiting. */
async function heldUntil(file: string | null, wait: (release: () => void) => void): Promise<void> {
  const letGo = file === null ? holdReply() : holdBack(file);
  await new Promise<void>(wait);
  letGo();
}

/** Waits as long as a reply is held, and as it is delayed; `file` is the address of what no script has asked for. */
export async function waitFor(route: Route, { hold, delay }: Reply, file: string | null = null): Promise<void> {
  if (hold) await heldUntil(file, (release) => append(route.held, release));
  if (delay) await heldUntil(file, (release) => void wait(delay, null, release));
}

/** A stream for whoever takes no streams: all of it at its end. */
function whole(reply: Reply): Reply {
  const parts = reply.chunks ?? reply.events?.map(eventText) ?? [];
  if (!reply.chunks && !reply.events) return reply;
  const { chunks: _, events: __, ...rest } = reply;
  const delay = parts.reduce<number>((sum, part) => sum + (typeof part === 'number' ? part : 0), reply.delay ?? 0);
  const body = parts.filter((part) => typeof part !== 'number').map(textOf);
  return { ...rest, delay, body: body.join('') };
}

const decoder = new TextDecoder();
const textOf = (part: unknown): string => (part instanceof Uint8Array ? decoder.decode(part) : String(part));

async function answered(route: Route, asked: AskedRequest, close: Close): Promise<void> {
  const nth = route.calls.length;
  const request = received(route, asked);
  const reply = whole(await replyTo(route.route, route.init, request, nth));
  await waitFor(route, reply, asked.isFile ? asked.url : null);
  if (reply.unreachable || !isOnline()) {
    answerRequest(asked.id, 'refuse');
    close('unreachable', 'error');
    return;
  }
  const isFailing = isToFail(`${asked.method} ${pathOf(asked.url)}`);
  const sent = isFailing ? failed : await sentOf(reply, asked.headers.Accept);
  answerRequest(asked.id, sent);
  close(String(sent.status), sent.status >= 400 ? 'error' : 'info');
}

async function decide(asked: AskedRequest): Promise<void> {
  requestsNow().events++;
  const close = markRequest(asked);
  const route = routeFor(asked);
  // No server is faster than the next frame: what a page shows while it waits has been shown before a reply comes.
  if (!asked.isFile && !asked.asset) await nextFrame();
  const answering = route && answered(route, asked, close);
  // Whoever waits until it is asked for finds by now that it was.
  beaconArrived(asked.url);
  if (answering) await answering;
  else unanswered(asked, close);
}

/** Called once, before anything of the project runs. */
export function decideRequests(): void {
  handleRequests((asked) => {
    decide(asked).catch((error: unknown) => {
      const details = { request: `${asked.method} ${pathOf(asked.url)}`, error: errorInWords(error) };
      raise('error', toProblem(error, 'answer-threw', details), stackOf(error));
      answerRequest(asked.id, 'refuse');
    });
  });
}
