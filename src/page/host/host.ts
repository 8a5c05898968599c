/** The page's side of the conversation with its host. */
import type { Ask, AskedRequest, Files, FromPage, RequestFate } from '../../core/wire/wire.ts';
import { native } from './natives.ts';

declare global {
  var __sguardoHost: ((text: string) => void) | undefined;
}

// No Map: a component that replaces a function of maps would cut the page off from its host.
const waiting: Record<number, { resolve(files: Files): void; reject(error: Error): void } | undefined> = {};
let next = 1;
let token = '';
let onRequest: (request: AskedRequest) => void = () => {};
// The binding is taken away at once: what speaks to the host is this module, and nothing else in the page.
const say = globalThis.__sguardoHost ?? (() => {});
delete globalThis.__sguardoHost;

/** Takes the token that shows messages to be ours. Only the first one counts. */
export function trust(given: string): void {
  token ||= given;
}

/** True for the token of this document's host. */
export const isTrusted = (given: string): boolean => token !== '' && given === token;

type Untold<T> = T extends unknown ? Omit<T, 'token'> : never;

/** Says something to the host. */
export const post = (message: Untold<FromPage>): void => say(native.stringify({ ...message, token }));

/**
 * Asks the host to do something for a look and resolves when it is done, with the files that the page asks for: it
 * hears of all that the page does in its order.
 */
export function ask(look: number, what: Ask): Promise<Files> {
  const id = next++;
  return new Promise((resolve, reject) => {
    waiting[id] = { resolve, reject };
    post({ kind: 'ask', look, id, ask: what });
  });
}

/** The host has done what was asked. */
export function reply(id: number, error: string | null, files: Files): void {
  const pending = waiting[id];
  delete waiting[id];
  if (error === null) pending?.resolve(files);
  else pending?.reject(new Error(error));
}

/** Says what becomes of a request. */
export const answerRequest = (request: string, fate: RequestFate): void =>
  post({ kind: 'answer', request, reply: fate });

/** Sets who decides about the page's requests. */
export function handleRequests(handler: (request: AskedRequest) => void): void {
  onRequest = handler;
}

/** The host hands a request over. */
export const request = (asked: AskedRequest): void => onRequest(asked);
