/** Web sockets (WHATWG WebSockets) that are answered on the page. */
import { addressOf } from '../../core/address/address.ts';
import { toProblem } from '../../core/problem/problem.ts';
import { errorInWords } from '../../core/value/show.ts';
import type { Received, Reply } from '../../language/answer.ts';
import { networkOrigins } from '../host/settings.ts';
import { stackHere, stackOf } from '../host/stack.ts';
import { raise } from '../record/trouble.ts';
import { runDue } from '../time/time.ts';
import { markRequest, tellUnanswered, waitFor } from './decide.ts';
import { replyTo } from './replies.ts';
import { type Asking, type Opened, received, type Route, routeFor, socketMethod } from './routes.ts';
import { play } from './script.ts';

const openSockets = new Set<AnsweredSocket>();

/** Closes the sockets that an ended look has left open, without a word. */
export function endSockets(): void {
  for (const socket of openSockets) socket.forget();
  openSockets.clear();
}

const isBytes = (part: unknown): boolean =>
  part instanceof ArrayBuffer || ArrayBuffer.isView(part) || part instanceof Blob;

/** A message as the page gets it. */
const messageOf = (part: unknown): unknown => (typeof part === 'string' || isBytes(part) ? part : JSON.stringify(part));

const states = { CONNECTING: 0, OPEN: 1, CLOSING: 2, CLOSED: 3 } as const;

class AnsweredSocket extends EventTarget {
  readonly url: string;
  readonly protocol: string;
  readonly extensions = '';
  readonly bufferedAmount = 0;
  binaryType: BinaryType = 'blob';
  readyState: number = states.CONNECTING;
  onopen: unknown = null;
  onmessage: unknown = null;
  onclose: unknown = null;
  onerror: unknown = null;
  readonly #route: Route | null;
  #opened: Opened | null = null;

  constructor(url: string, protocols: readonly string[]) {
    super();
    this.url = url;
    this.protocol = protocols[0] ?? '';
    const asking: Asking = { method: socketMethod, url, headers: {}, body: null };
    const close = markRequest(asking);
    this.#route = routeFor(asking) ?? null;
    openSockets.add(this);
    if (!this.#route) {
      close('refused', 'warning');
      tellUnanswered(asking, stackHere());
      queueMicrotask(() => this.#fail());
      return;
    }
    const route = this.#route;
    void this.#reply(asking, (reply) => {
      if (reply.unreachable) {
        close('unreachable', 'error');
        this.#fail();
        return;
      }
      close('open', 'info');
      this.readyState = states.OPEN;
      this.#tell(new Event('open'));
      this.#opened = play(
        route,
        reply.messages ?? [],
        (part) => this.#message(part),
        (code) => this.#close(code),
        true,
      );
    });
  }

  /** Lets the route answer something that came, which may be that the socket was opened. */
  async #reply(asking: Asking, does: (reply: Reply) => void): Promise<void> {
    const route = this.#route!;
    const nth = route.calls.filter(({ body }) => body === null).length;
    const request: Received = received(route, asking);
    try {
      const reply = await replyTo(route.route, route.init, request, nth);
      await waitFor(route, reply);
      if (this.readyState < states.CLOSING) does(reply);
      await runDue();
    } catch (error) {
      const details = { request: `${socketMethod} ${this.url}`, error: errorInWords(error) };
      raise('error', toProblem(error, 'answer-threw', details), stackOf(error));
    }
  }

  send(data: unknown): void {
    if (this.readyState === states.CONNECTING)
      throw new DOMException("Failed to execute 'send': still in CONNECTING state.", 'InvalidStateError');
    if (this.readyState !== states.OPEN) return;
    const body = typeof data === 'string' ? data : `(${(data as Blob)?.size ?? 'some'} bytes)`;
    const asking = { method: socketMethod, url: this.url, headers: {}, body };
    markRequest(asking)('sent', 'info');
    // Only a function tells what a message brings.
    if (typeof this.#route!.init !== 'function') {
      received(this.#route!, asking);
      return;
    }
    void this.#reply(asking, ({ messages = [] }) => {
      for (const part of messages) this.#message(part);
    });
  }

  close(code = 1000, reason = ''): void {
    if (this.readyState >= states.CLOSING) return;
    this.readyState = states.CLOSING;
    queueMicrotask(() => this.#close(code, reason));
  }

  /** The look has ended: nothing comes any more. */
  forget(): void {
    this.readyState = states.CLOSED;
    this.#opened?.end();
  }

  #message(part: unknown): void {
    if (this.readyState !== states.OPEN) return;
    this.#tell(new MessageEvent('message', { data: messageOf(part), origin: addressOf(this.url)?.origin ?? '' }));
  }

  #close(code = 1000, reason = ''): void {
    if (this.readyState === states.CLOSED) return;
    this.readyState = states.CLOSED;
    openSockets.delete(this);
    this.#opened?.end();
    this.#tell(new CloseEvent('close', { code, reason, wasClean: code !== 1006 }));
  }

  #fail(): void {
    this.#tell(new Event('error'));
    this.#close(1006);
  }

  #tell(event: Event): void {
    this.dispatchEvent(event);
    const handler = (this as unknown as Record<string, unknown>)[`on${event.type}`];
    if (typeof handler === 'function') handler.call(this, event);
  }
}

/** Called once, before anything of the project runs. Sockets to origins that may be reached for real are real. */
export function watchSockets(): void {
  window.WebSocket = new Proxy(window.WebSocket, {
    construct(target, args: [string | URL, (string | string[])?], newTarget) {
      const url = addressOf(String(args[0]), location.href)?.href.replace(/^http/, 'ws') ?? '';
      const { protocol = '', host = '' } = addressOf(url) ?? {};
      // What is no address is told by the real one.
      if (!/^wss?:$/.test(protocol) || networkOrigins().includes(`${protocol}//${host}`))
        return Reflect.construct(target, args, newTarget) as WebSocket;
      return new AnsweredSocket(url, [args[1] ?? []].flat());
    },
  });
  for (const [name, value] of Object.entries(states)) Object.defineProperty(AnsweredSocket.prototype, name, { value });
}
