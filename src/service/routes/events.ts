/** The live feed as server-sent events (WHATWG HTML, 9.2). */
import type { ServerResponse } from 'node:http';
import type { InferType } from 'yup';
import { apiHeaders } from '../headers.ts';
import type { Numbered } from '../live.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';

/** How often a feed on which nothing happens says that it is still there, in milliseconds. */
const beat = 15_000;

/** A listener that does not read is given up when this many bytes wait for it. */
const mostWaiting = 64 * 1024 * 1024;

type Watching = { Querystring: InferType<typeof schemas.watch> };

export const eventRoutes: Routes = (app, { live, project, watcher }) => {
  const summary =
    'The live feed (server-sent events); each message is a JSON object with a kind, and ids resume it. ' +
    'While anybody listens with “watch”, looks are run whenever files that they depend on change';
  const schema = { summary, querystring: schemas.watch };
  app.get<Watching>('/api/events', { schema }, async (request, reply) => {
    const { stage, live: lively, baselines } = await project();
    const after = request.headers['last-event-id'];
    reply.hijack();
    const { raw } = reply;
    raw.writeHead(200, {
      ...apiHeaders([stage, lively]),
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
    });
    raw.write(': welcome\n\n');
    const stop = live.listen((event) => write(raw, event), typeof after === 'string' ? after : undefined);
    const beating = setInterval(() => raw.write(': still here\n\n'), beat);
    const rest = request.query.watch ? watcher.want(baselines) : () => {};
    const end = (): void => {
      clearInterval(beating);
      rest();
      stop();
    };
    request.raw.once('close', end);
    raw.on('error', end);
  });
};

function write(raw: ServerResponse, { id, event }: Numbered): void {
  if (raw.writableLength > mostWaiting) raw.destroy();
  else raw.write(`id: ${id}\ndata: ${JSON.stringify(event)}\n\n`);
}
