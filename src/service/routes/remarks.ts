/** Calls about what people leave beside decisions: comments, and that they have looked at something. */
import type { InferType } from 'yup';
import { personOf } from '../../baselines/git.ts';
import { fail } from '../../core/problem/problem.ts';
import type { ApiContext, Routes } from './context.ts';
import { schemas } from './schemas.ts';

type CommentBody = InferType<typeof schemas.comment>;

/** What a comment is about: a cause by its key, or a capture of a result. @throws ProblemError `request-wrong` */
function aboutOf({ store }: ApiContext, { cause, capture }: CommentBody) {
  if ((cause === undefined) === (capture === undefined))
    return fail('request-wrong', { error: 'Name either a cause or a capture to comment on.' });
  if (cause !== undefined) return { cause };
  const { result: id, capture: name } = capture!;
  const { component, look, environment } = store.results.get(id) ?? fail('not-found', { what: `result ${id}` });
  return { component, look, environment, capture: name };
}

export const remarkRoutes: Routes = (app, context) => {
  const { store, root, live } = context;

  app.post<{ Body: CommentBody }>(
    '/api/comments',
    { schema: { summary: 'Leave a comment on a cause or on a capture', body: schemas.comment } },
    ({ body }) => {
      const comment = store.remarks.comment(aboutOf(context, body), body.who ?? personOf(root), body.text.trim());
      live.tell({ kind: 'commented' });
      return comment;
    },
  );

  app.post<{ Body: InferType<typeof schemas.seen> }>(
    '/api/seen',
    {
      schema: {
        summary: 'Say that somebody has looked at pairs of pictures, by the pairs of causes',
        body: schemas.seen,
      },
    },
    ({ body }) => {
      store.remarks.see(body.pairs, body.who ?? personOf(root));
      return { seen: body.pairs.length };
    },
  );
};
