import type { FastifyInstance } from 'fastify';
import { Problem } from '../problem.ts';
import type { Services } from './services.ts';

/** For those who watch the server: whether it lives, and whether it is to be sent requests. */
export function healthRoutes(
  app: FastifyInstance,
  { config, blobs, imports, isDatabaseAnswering, drain }: Services,
): void {
  /** An embedded database that hangs comes back with a new start of the server; a PostgreSQL server has its own watch. */
  app.get('/api/health', () => {
    if (config.databaseUrl === null && !isDatabaseAnswering())
      throw new Problem('internal', { detail: 'The database doesn’t answer.' });
    return { status: 'ok' };
  });

  app.get('/api/ready', async () => {
    const isWritable = await blobs.check().then(
      () => true,
      () => false,
    );
    const parts = { database: isDatabaseAnswering(), files: isWritable, imports: imports.isWorking };
    const missing = Object.entries(parts).flatMap(([name, isThere]) => (isThere ? [] : [name]));
    if (drain.isDraining) throw new Problem('not-ready', { detail: 'The server is about to stop.' });
    if (missing.length > 0) throw new Problem('not-ready', { detail: `Not ready: ${missing.join(', ')}.` });
    return { status: 'ready', ...parts };
  });
}
