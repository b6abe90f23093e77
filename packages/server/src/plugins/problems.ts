import type { FastifyError, FastifyInstance, FastifyReply } from 'fastify';
import { isLostConnection } from '../db/lost-connection.ts';
import { Problem } from '../problem.ts';

/** Every failure leaves the server as RFC 9457 problem details. */
export function problemHandling(app: FastifyInstance, hasLog: boolean): void {
  const send = (reply: FastifyReply, problem: Problem, instance: string): FastifyReply =>
    reply
      .status(problem.details.status)
      .type('application/problem+json')
      .send({ ...problem.details, instance });

  app.setErrorHandler((error: FastifyError | Problem, request, reply) => {
    const problem = error instanceof Problem ? error : problemOf(error);
    // without a log errors still have to be seen somewhere
    if (problem.details.status >= 500) {
      if (!hasLog) console.error(`${request.method} ${request.url}:`, error);
      else request.log.error({ err: error }, problem.details.title);
    }
    if (problem.details.code === 'not-ready') void reply.header('retry-after', RETRY_S);
    return send(reply, problem, request.url);
  });
  app.setNotFoundHandler((request, reply) => send(reply, new Problem('not-found'), request.url));
}

/** A database that was lost for a moment is looked for again after so long, s. */
const RETRY_S = 1;

function problemOf(error: FastifyError): Problem {
  if (error.code === 'FST_REQ_FILE_TOO_LARGE') return new Problem('file-too-large');
  if (isLostConnection(error))
    return new Problem('not-ready', { detail: 'The database is out of reach for a moment.' });
  const status = error.statusCode ?? 500;
  if (status === 413) return new Problem('file-too-large', { detail: error.message });
  return status < 500 ? new Problem('bad-request', { detail: error.message }) : new Problem('internal');
}
