/** Answers every error as problem details (RFC 9457). */
import type { FastifyError, FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { ValidationError } from 'yup';
import { catalogue, type Problem, problem, ProblemError } from '../core/problem.ts';

/** A problem as `application/problem+json`; our own members are `code`, `remedy`, `found`, `frame` and `place`. */
export function problemDetails(wrong: Problem): object {
  const { status } = catalogue[wrong.code];
  return { type: `urn:sguardo:problem:${wrong.code}`, title: wrong.message, status, detail: `${wrong.message} ${wrong.remedy}`, ...wrong };
}

function problemOf(error: unknown, log: (error: unknown) => void): Problem {
  if (error instanceof ProblemError) return error.problem;
  if (error instanceof ValidationError) return problem('request-wrong', { error: error.message });
  const { statusCode, message } = error as FastifyError;
  if (statusCode && statusCode < 500) return problem('request-wrong', { error: message });
  log(error);
  return problem('internal', { error: error instanceof Error ? error.message : String(error) });
}

const answer = (reply: FastifyReply, wrong: Problem): FastifyReply =>
  reply
    .code(catalogue[wrong.code].status)
    .type('application/problem+json')
    .send(JSON.stringify(problemDetails(wrong)));

/** For errors that come before any route, such as an address that cannot be decoded: an option of the server itself. */
export const frameworkErrors = (error: FastifyError, request: FastifyRequest, reply: FastifyReply): void =>
  void answer(
    reply,
    problemOf(error, (cause) => request.log.error(cause)),
  );

export function answerProblems(app: FastifyInstance): void {
  app.setErrorHandler((error, request, reply) =>
    answer(
      reply,
      problemOf(error, (cause) => request.log.error(cause)),
    ),
  );
  app.setNotFoundHandler((request, reply) => answer(reply, problem('not-found', { what: `page or call at ${request.method} ${request.url.split('?')[0]}` })));
}
