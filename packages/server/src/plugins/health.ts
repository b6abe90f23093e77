import type { FastifyInstance } from 'fastify';
import { Problem } from '../problem.ts';
import type { Services } from './services.ts';

/** Whether the server and its database answer; never queues behind what the database is doing. */
export function healthRoutes(app: FastifyInstance, { isDatabaseAnswering }: Services): void {
  app.get('/api/health', () => {
    if (!isDatabaseAnswering()) throw new Problem('internal', { detail: 'The database doesn’t answer.' });
    return { status: 'ok' };
  });
}
