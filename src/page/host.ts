/** The page's side of the conversation with its host. */
import type { Ask, AskedRequest, FromPage, Reply } from '../core/wire.ts';

declare global {
  var __sguardoHost: ((text: string) => void) | undefined;
}

const waiting = new Map<number, { resolve(): void; reject(error: Error): void }>();
let next = 1;
let onRequest: (request: AskedRequest) => void = () => {};
// The binding is taken at once, so that a component cannot replace it.
const say = globalThis.__sguardoHost ?? (() => {});

export const post = (message: FromPage): void => say(JSON.stringify(message));

/** Asks the host to do something and resolves when it is done. */
export function ask(what: Ask): Promise<void> {
  const id = next++;
  return new Promise((resolve, reject) => {
    waiting.set(id, { resolve, reject });
    post({ kind: 'ask', id, ask: what });
  });
}

/** The host has done what was asked. */
export function reply(id: number, error: string | null): void {
  const pending = waiting.get(id);
  waiting.delete(id);
  if (error === null) pending?.resolve();
  else pending?.reject(new Error(error));
}

export const answerRequest = (request: string, answer: Reply | 'proceed' | 'refuse'): void => post({ kind: 'answer', request, reply: answer });

/** Sets who decides about the page's requests. */
export function handleRequests(handler: (request: AskedRequest) => void): void {
  onRequest = handler;
}

export const request = (asked: AskedRequest): void => onRequest(asked);
