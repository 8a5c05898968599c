/** Replies that come in parts, to `fetch`: answered on the page, since the browser takes a stubbed reply only whole. */
import type { Reply } from '../../language/answer.ts';
import { native } from '../host/natives.ts';
import { type Close, markRequest, waitFor } from './decide.ts';
import { eventText, replyTo } from './replies.ts';
import { type Asking, type Opened, received, type Route, routeFor, routesNow } from './routes.ts';
import { play } from './script.ts';

const comesInParts = (reply: Reply | undefined): boolean => reply?.chunks !== undefined || reply?.events !== undefined;

const hasParts = ({ init }: Pick<Route, 'init'>): boolean =>
  typeof init !== 'function' && [init].flat().some((reply) => comesInParts(reply as Reply));

const encoder = new TextEncoder();

function streamOf(route: Route, reply: Reply, signal: AbortSignal): ReadableStream<Uint8Array> {
  const parts = reply.chunks ?? (reply.events ?? []).map(eventText);
  let opened: Opened | null = null;
  return new ReadableStream<Uint8Array>({
    start(controller) {
      const tell = (part: unknown): void =>
        controller.enqueue(part instanceof Uint8Array ? part : encoder.encode(String(part)));
      signal.addEventListener('abort', () => {
        opened?.end();
        controller.error(signal.reason);
      });
      opened = play(route, parts, tell, () => signal.aborted || controller.close(), reply.events !== undefined);
    },
    cancel: () => opened?.end(),
  });
}

async function reply(route: Route, asking: Asking, signal: AbortSignal, close: Close): Promise<Response> {
  const nth = route.calls.length;
  const found = await replyTo(route.route, route.init, received(route, asking), nth);
  await waitFor(route, found);
  signal.throwIfAborted();
  if (found.unreachable) {
    close('unreachable', 'error');
    throw new TypeError('Failed to fetch');
  }
  const { status = 200, headers = {}, events } = found;
  const type = events ? 'text/event-stream' : 'text/plain';
  close(`${status}, a stream`, status >= 400 ? 'error' : 'info');
  return new Response(streamOf(route, found, signal), { status, headers: { 'content-type': type, ...headers } });
}

async function repliedTo(args: Parameters<typeof fetch>): Promise<Response> {
  const request = new Request(...args);
  const { method, url, signal } = request;
  const body = method === 'GET' || method === 'HEAD' ? null : await request.clone().text();
  const asking = { method, url, headers: Object.fromEntries(request.headers), body };
  const route = routeFor(asking);
  return route && hasParts(route) ? reply(route, asking, signal, markRequest(asking)) : native.fetch(request);
}

/** The reply to a request, once a look has declared one that comes in parts; null as long as none has. */
export const repliedInParts = (args: Parameters<typeof fetch>): Promise<Response> | null =>
  (routesNow() as readonly Route[]).some(hasParts) ? repliedTo(args) : null;
