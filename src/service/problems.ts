/** Answers every error as problem details (RFC 9457). */
import type { FastifyError, FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { ValidationError } from 'yup';
import { diskProblem } from '../core/problem/disk.ts';
import { type Problem, problem, ProblemError, toProblem } from '../core/problem/problem.ts';
import { statusOf } from './statuses.ts';

/** So much is taken with one request, in megabytes. */
export const mostMegabytes = 4;

/** A problem as `application/problem+json`; our own members are `code`, `remedy`, `found`, `frame` and `place`. */
export function problemDetails(wrong: Problem): object {
  const { code, message, remedy } = wrong;
  return {
    type: `urn:sguardo:problem:${code}`,
    title: message,
    status: statusOf(code),
    detail: `${message} ${remedy}`,
    ...wrong,
  };
}

function problemOf(error: unknown, log: (error: unknown) => void, records = 'the .sguardo folder'): Problem {
  if (error instanceof ProblemError) return error.problem;
  if (error instanceof ValidationError) return problem('request-wrong', { error: error.message });
  const { statusCode, message } = error as FastifyError;
  if (statusCode === 413) return problem('request-too-large', { most: mostMegabytes });
  if (statusCode && statusCode < 500) return problem('request-wrong', { error: message });
  log(error);
  return diskProblem(error, records) ?? toProblem(error);
}

const answer = (reply: FastifyReply, wrong: Problem): FastifyReply =>
  reply
    .code(statusOf(wrong.code))
    .type('application/problem+json')
    .send(JSON.stringify(problemDetails(wrong)));

/** For errors that come before any route, such as an address that cannot be decoded: an option of the server itself. */
export const frameworkErrors = (error: FastifyError, request: FastifyRequest, reply: FastifyReply): void => {
  // Hooks of routes do not see these; what they add to every reply is added here.
  reply.headers({ 'x-content-type-options': 'nosniff', 'content-security-policy': "default-src 'none'" });
  void answer(
    reply,
    problemOf(error, (cause) => request.log.error(cause)),
  );
};

/**
 * Answers whatever calls throw; `records` is the folder that they write to, `page` what a person sees at no address.
 */
export function answerProblems(
  app: FastifyInstance,
  records: string,
  page: ((reply: FastifyReply) => unknown) | null = null,
): void {
  app.setErrorHandler((error, request, reply) => {
    const log = (cause: unknown): void => request.log.error(cause);
    return answer(reply, problemOf(error, log, records));
  });
  app.setNotFoundHandler((request, reply) => {
    const path = request.url.split('?')[0]!;
    // A person who has mistyped an address reads the console's own page about it.
    const isPerson =
      request.method === 'GET' && !path.startsWith('/api/') && /text\/html/.test(request.headers.accept ?? '');
    if (isPerson && page) return page(reply.code(404));
    return answer(reply, problem('not-found', { what: `page or call at ${request.method} ${path}` }));
  });
}
