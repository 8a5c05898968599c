/** The answers of a look on the stage: a service worker asks for them, whatever the component asks with. */
import { errorInWords } from '../../core/value/show.ts';
import type { Reply as Sent } from '../../core/wire/wire.ts';
import type { Reply } from '../../language/answer.ts';
import { eventText, replyTo, sentOf } from '../network/replies.ts';
import { type Asking, received, routeFor } from '../network/routes.ts';

/** Where the worker is; a published site has one beside its stages. */
const worker = document.documentElement.dataset.worker ?? '/__sguardo/worker.js';
const scope = document.documentElement.dataset.worker ? './' : '/';

/** A stream as a whole: a worker hands it on in one piece. */
function whole(reply: Reply): Reply {
  const parts = reply.chunks ?? reply.events?.map(eventText);
  if (!parts) return reply;
  const { chunks: _, events: __, ...rest } = reply;
  return {
    ...rest,
    body: parts
      .filter((part) => typeof part !== 'number')
      .map(String)
      .join(''),
  };
}

const wait = (milliseconds: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Something is asked for, and it may be known already that it is no file of the project. */
type Asked = Asking & { isMissing: boolean };

/**
 * True for what may be a file of the project, such as one of its public folder: beside the stage. What else a site is
 * published beside is none of a look's business.
 */
const mayBeFile = ({ method, url, isMissing }: Asked): boolean =>
  !isMissing && method === 'GET' && url.startsWith(new URL(scope, location.href).href);

/** What comes back: `file` for whoever asks to look whether the project has it. */
async function answerTo(asking: Asked, tell: (message: string) => void): Promise<Sent | 'refuse' | 'file'> {
  const route = routeFor(asking);
  if (!route) {
    if (mayBeFile(asking)) return 'file';
    tell(`${asking.method} ${asking.url.replace(location.origin, '')} has no answer: it got 404.`);
    return {
      status: 404,
      headers: { 'content-type': 'application/problem+json' },
      body: '{"title":"No answer","status":404}',
    };
  }
  const nth = route.calls.length;
  const reply = whole(await replyTo(route.route, route.init, received(route, asking), nth));
  if (reply.delay) await wait(reply.delay);
  if (reply.hold) await new Promise(() => {});
  return reply.unreachable ? 'refuse' : sentOf(reply, asking.headers.accept);
}

/** Answers what is asked with `fetch`; what is asked otherwise goes where it goes. */
function answerFetch(tell: (message: string) => void): void {
  tell('This browser has no service workers here: only what is asked with fetch is answered.');
  const network = window.fetch;
  window.fetch = async (input, init) => {
    const request = new Request(input, init);
    const { method, url } = request;
    const isPlain = method === 'GET' || method === 'HEAD';
    const body = isPlain ? null : await request.text();
    const asked = { method, url, headers: Object.fromEntries(request.headers), body };
    let sent = await answerTo({ ...asked, isMissing: false }, tell);
    if (sent === 'file') {
      const file = await network(request).catch(() => null);
      if (file?.ok) return file;
      sent = await answerTo({ ...asked, isMissing: true }, tell);
    }
    if (sent === 'refuse' || sent === 'file') throw new TypeError('Failed to fetch');
    const { status, headers, body: content } = sent;
    const text = typeof content === 'string' ? content : 'base64' in content ? atob(content.base64) : '';
    const bytes = typeof content === 'string' ? text : Uint8Array.from(text, (letter) => letter.charCodeAt(0));
    return new Response(status === 204 || status === 304 ? null : bytes, { status, headers });
  };
}

/** Answers what the component asks for from now on. Resolves when that is so, or cannot be. */
export async function answerRequests(tell: (message: string) => void): Promise<void> {
  const { serviceWorker } = navigator;
  // Away from this machine only pages of https have one.
  if (!serviceWorker) return answerFetch(tell);
  serviceWorker.addEventListener('message', ({ data, ports: [port] }) => {
    const asking = data as Asked;
    answerTo(asking, tell).then(
      (sent) => port?.postMessage(sent),
      (error: unknown) => {
        tell(`The answer to ${asking.method} ${asking.url} threw: ${errorInWords(error)}`);
        port?.postMessage('refuse');
      },
    );
  });
  const claimed = new Promise((resolve) => serviceWorker.addEventListener('controllerchange', resolve, { once: true }));
  try {
    await serviceWorker.register(worker, { scope });
    if (!serviceWorker.controller) await Promise.race([claimed, wait(3000)]);
  } catch (error) {
    tell(`Requests are not answered: ${errorInWords(error)}`);
  }
}
