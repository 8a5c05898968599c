/** A client that reads from a published site: what was answered when it was made, in files. */
import { problem, ProblemError } from '../core/problem/problem.ts';
import type { Answers, SitePage } from '../core/site/site.ts';
import { type Client, clientOf } from './client.ts';

/** Files may be packed. A server that knows that has unpacked them by itself. */
async function readJson(address: string): Promise<unknown> {
  const reply = await fetch(address).catch(() => null);
  if (!reply?.ok) throw new ProblemError(problem('site-broken', { file: address }));
  const bytes = new Uint8Array(await reply.arrayBuffer());
  const isPacked = bytes[0] === 0x1f && bytes[1] === 0x8b;
  const stream = isPacked ? new Blob([bytes]).stream().pipeThrough(new DecompressionStream('gzip')) : null;
  return JSON.parse(stream ? await new Response(stream).text() : new TextDecoder().decode(bytes)) as unknown;
}

/** Nothing happens on a site. */
async function* nothing(signal: AbortSignal): AsyncGenerator<never> {
  await new Promise<void>((resolve) => signal.addEventListener('abort', () => resolve(), { once: true }));
}

/** Connects to the site that a page belongs to. @throws ProblemError `site-broken` */
export async function connectSite({ objects, answers: name }: SitePage): Promise<Client> {
  const answers = (await readJson(objects + name)) as Answers;
  return clientOf({
    // Without a file of its own it is none that a browser would find.
    address: (path) => (answers[path] === undefined ? 'data:,' : objects + answers[path]),
    events: (signal, ready) => {
      ready?.();
      return nothing(signal);
    },
    async call<T>(method: string, path: string): Promise<T> {
      const found = method === 'GET' ? answers[path] : undefined;
      if (found !== undefined) return (await readJson(objects + found)) as T;
      throw new ProblemError(problem(method === 'GET' ? 'site-without' : 'site-read-only'));
    },
  });
}
