/** The answers of a look on the stage: a service worker asks for them, whatever the component asks with. */
import { errorInWords } from '../../core/value/show.ts';
import type { Reply as Sent } from '../../core/wire/wire.ts';
import type { Reply } from '../../language/answer.ts';
import { eventText, replyTo, sentOf } from '../network/replies.ts';
import { type Asking, received, routeFor } from '../network/routes.ts';

/** Where the worker is. */
const workerPath = '/__sguardo/worker.js';

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

async function answerTo(asking: Asking, tell: (message: string) => void): Promise<Sent | 'refuse'> {
  const route = routeFor(asking);
  if (!route) {
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

/** Answers what the component asks for from now on. Resolves when that is so, or cannot be. */
export async function answerRequests(tell: (message: string) => void): Promise<void> {
  const { serviceWorker } = navigator;
  if (!serviceWorker) return tell('This browser has no service workers: requests are not answered.');
  serviceWorker.addEventListener('message', ({ data, ports: [port] }) => {
    const asking = data as Asking;
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
    await serviceWorker.register(workerPath, { scope: '/' });
    if (!serviceWorker.controller) await Promise.race([claimed, wait(3000)]);
  } catch (error) {
    tell(`Requests are not answered: ${errorInWords(error)}`);
  }
}
