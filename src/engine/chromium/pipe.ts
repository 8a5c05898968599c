/** The Chrome DevTools Protocol over a pair of pipes: JSON messages, each ended by a NUL byte. */
import type { Readable, Writable } from 'node:stream';
import { messageOf } from '../../core/problem/problem.ts';
import { LostError } from '../engine.ts';

type Pending = {
  resolve(value: never): void;
  reject(error: Error): void;
  session: string | undefined;
  timer: NodeJS.Timeout;
};

/** How long a call may take unless it says otherwise, in milliseconds: far more than any takes on a busy machine. */
const usualLimit = 60_000;

type Message = {
  id?: number;
  method?: string;
  params?: Record<string, unknown>;
  result?: unknown;
  error?: { message: string };
  sessionId?: string;
};

/** An event's parameters, as the protocol describes them for its method. */
// biome-ignore lint/suspicious/noExplicitAny: their shape differs from event to event
export type Params = Record<string, any>;

/** Called with every event of a session. */
export type Listener = (method: string, params: Params) => void;

/** What hears of some events, by their methods. */
export type Hears = Readonly<Record<string, (params: Params) => void>>;

/** Calls a method in a session, and resolves with its result. */
export type Send = <T = unknown>(method: string, params?: object, limit?: number) => Promise<T>;

export class Pipe {
  #next = 1;
  readonly #pending = new Map<number, Pending>();
  readonly #listeners = new Map<string, Listener>();
  readonly #silent = new Map<string, (error: LostError) => void>();
  readonly #out: Writable;
  #lost: LostError | null = null;

  constructor(out: Writable, input: Readable) {
    this.#out = out;
    out.on('error', () => {});
    let parts: Buffer[] = [];
    input.on('data', (chunk: Buffer) => {
      const messages: string[] = [];
      let start = 0;
      for (let end = chunk.indexOf(0); end >= 0; end = chunk.indexOf(0, start)) {
        parts.push(chunk.subarray(start, end));
        messages.push(Buffer.concat(parts).toString('utf8'));
        parts = [];
        start = end + 1;
      }
      if (start < chunk.length) parts.push(chunk.subarray(start));
      for (const text of messages) this.#receive(JSON.parse(text) as Message);
    });
  }

  /**
   * Sends a command; the session is a target's, or undefined for the browser itself.
   * @throws LostError `silent` when no answer comes within `limit` milliseconds
   */
  send<T = unknown>(method: string, params: object = {}, session?: string, limit = usualLimit): Promise<T> {
    if (this.#lost) return Promise.reject(this.#lost);
    const id = this.#next++;
    return new Promise<T>((resolve, reject) => {
      const timer = setTimeout(() => {
        this.#pending.delete(id);
        const late = new LostError('silent', `${method} was not answered within ${limit} ms`);
        reject(late);
        if (session !== undefined) this.#silent.get(session)?.(late);
      }, limit);
      this.#pending.set(id, { resolve: resolve as Pending['resolve'], reject, session, timer });
      this.#out.write(`${JSON.stringify({ id, method, params, sessionId: session })}\0`);
    });
  }

  /** Sends a command whose answer nobody waits for. */
  post(method: string, params: object, session?: string): void {
    this.send(method, params, session).catch(() => {});
  }

  /** Hears of a session's events, and of calls that it did not answer in time. */
  listen(session: string, listener: Listener, silent?: (error: LostError) => void): void {
    this.#listeners.set(session, listener);
    if (silent) this.#silent.set(session, silent);
  }

  /** A session is over: nobody hears of it any more. */
  forget(session: string): void {
    this.#listeners.delete(session);
    this.#silent.delete(session);
  }

  /** Rejects every call that waits for an answer of this session: a crashed page gives none. */
  drop(session: string, error: Error): void {
    for (const [id, pending] of this.#pending) {
      if (pending.session !== session) continue;
      this.#pending.delete(id);
      clearTimeout(pending.timer);
      pending.reject(error);
    }
  }

  /** Ends everything: the browser is gone. */
  end(error: LostError): void {
    this.#lost = error;
    for (const pending of this.#pending.values()) {
      clearTimeout(pending.timer);
      pending.reject(error);
    }
    this.#pending.clear();
  }

  #receive(message: Message): void {
    if (message.id !== undefined) {
      const pending = this.#pending.get(message.id);
      if (!pending) return;
      this.#pending.delete(message.id);
      clearTimeout(pending.timer);
      if (message.error) pending.reject(new Error(message.error.message));
      else pending.resolve(message.result as never);
    } else if (message.method) {
      const session = message.sessionId ?? '';
      try {
        this.#listeners.get(session)?.(message.method, message.params ?? {});
      } catch (error) {
        // Whoever waits for the session is told; all others go on.
        this.drop(session, error instanceof Error ? error : new Error(messageOf(error)));
      }
    }
  }
}
