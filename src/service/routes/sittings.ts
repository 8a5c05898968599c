/** Calls about sittings: looks that are run for somebody who stops them, tries lines on them, and lets them go on. */
import type { InferType } from 'yup';
import type { SittingState } from '../../core/sitting/sitting.ts';
import type { Sitting } from '../../work/index.ts';
import type { InputRequest } from '../../core/wire/wire.ts';
import type { Routes } from './context.ts';
import { schemas } from './schemas.ts';
import { sittingSchemas } from './sittingSchemas.ts';

type Id = { Params: InferType<typeof schemas.id> };
type Schemas = typeof sittingSchemas;
type WithBody<S extends keyof Schemas> = Id & { Body: InferType<Schemas[S]> };

export const sittingRoutes: Routes = (app, { sittings }) => {
  const withId = (summary: string) => ({ schema: { summary, params: schemas.id } });
  const withBody = (summary: string, body: Schemas[keyof Schemas]) => ({
    schema: { summary, params: schemas.id, body },
  });

  /** Has something done to one, and tells what has come of it. */
  const after = async (id: number, work: (sitting: Sitting) => Promise<void>): Promise<SittingState> => {
    const sitting = sittings.get(id);
    await work(sitting);
    return sitting.state;
  };

  app.get('/api/sittings', { schema: { summary: 'The looks that are live' } }, () => sittings.live());

  app.post<{ Body: InferType<Schemas['begin']> }>(
    '/api/sittings',
    { schema: { summary: 'Run a look live, up to the step where it is to stop', body: sittingSchemas.begin } },
    async ({ body }, reply) => reply.code(201).send(await sittings.begin(body)),
  );

  app.get<Id>('/api/sittings/:id', withId('One live look'), ({ params }) => sittings.get(params.id).state);

  app.post<WithBody<'orders'>>(
    '/api/sittings/:id/go',
    withBody('Let its script go on', sittingSchemas.orders),
    ({ params, body }) => after(params.id, (sitting) => sitting.go(body)),
  );

  app.post<WithBody<'orders'>>(
    '/api/sittings/:id/restart',
    withBody('Run it again from its beginning; lines that were tried are gone', sittingSchemas.orders),
    ({ params, body }) => after(params.id, (sitting) => sitting.restart(body)),
  );

  app.post<WithBody<'line'>>(
    '/api/sittings/:id/lines',
    withBody('Try a line where it stands', sittingSchemas.line),
    ({ params, body }) => sittings.get(params.id).tryLine(body.text),
  );

  app.post<WithBody<'line'>>(
    '/api/sittings/:id/completions',
    withBody('What may come next where a line ends', sittingSchemas.line),
    ({ params, body }) => sittings.get(params.id).complete(body.text),
  );

  app.post<WithBody<'place'>>(
    '/api/sittings/:id/pointed',
    withBody('What the element at a place of its page is, and by which targets a look names it', sittingSchemas.place),
    async ({ params, body }) => ({ pointed: await sittings.get(params.id).point(body.x, body.y) }),
  );

  app.post<WithBody<'input'>>(
    '/api/sittings/:id/input',
    withBody('Send mouse and keyboard input to its page', sittingSchemas.input),
    async ({ params, body }) => {
      await sittings.get(params.id).input(body.events as unknown as InputRequest[]);
      return {};
    },
  );

  app.post<WithBody<'choice'>>(
    '/api/sittings/:id/choice',
    withBody('Choose an option of the list that its page has opened; none with null', sittingSchemas.choice),
    ({ params, body }) => after(params.id, (sitting) => sitting.choose(body.index)),
  );

  app.post<WithBody<'time'>>(
    '/api/sittings/:id/time',
    withBody('Let its time run by itself, or stand still', sittingSchemas.time),
    ({ params, body }) => after(params.id, (sitting) => sitting.letTime(body.runs)),
  );

  app.post<WithBody<'record'>>(
    '/api/sittings/:id/record',
    withBody('Write down as lines what is done to its page by hand, or no more', sittingSchemas.record),
    ({ params, body }) => after(params.id, (sitting) => sitting.record(body.isOn)),
  );

  app.post<Id>('/api/sittings/:id/end', withId('Close its page'), ({ params }) =>
    after(params.id, (sitting) => sitting.end()),
  );

  app.get<Id & { Querystring: InferType<Schemas['after']> }>(
    '/api/sittings/:id/picture',
    {
      schema: {
        summary: 'What its page shows, as a PNG, as soon as that is newer than “after”; nothing when it stays as it is',
        params: schemas.id,
        querystring: sittingSchemas.after,
      },
    },
    async ({ params, query }, reply) => {
      const picture = await sittings.get(params.id).picture(query.after);
      if (!picture) return reply.code(204).send();
      return reply
        .header('cache-control', 'no-store')
        .header('x-picture-number', picture.number)
        .type('image/png')
        .send(picture.png);
    },
  );
};
