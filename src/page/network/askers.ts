/** Where in the sources requests were made, for those that nobody answers. */
import { deepError, stackOf } from '../host/stack.ts';

/** An error made where a request was, by method and address; its stack is only written out when it is wanted. */
let askers: Record<string, Error> = {};

export const forgetAskers = (): void => {
  askers = {};
};

const keyOf = (method: string, url: string): string => `${method.toUpperCase()} ${url.split('#', 1)[0]}`;

/** A request is made now; to be called by whoever stands between the source and the engine. */
export function noteAsker(method: string, address: string | URL): void {
  try {
    askers[keyOf(method, new URL(address, document.baseURI).href)] = deepError();
  } catch {
    // The engine says what is wrong with the address.
  }
}

/** The stack of who made a request last, or null where that is not known, as in workers. */
export const askerOf = ({ method, url }: { method: string; url: string }): string | null =>
  stackOf(askers[keyOf(method, url)]);
