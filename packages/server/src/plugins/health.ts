import { sql } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import type { Services } from './services.ts';

/** Whether the server and its database answer. */
export function healthRoutes(app: FastifyInstance, { db }: Services): void {
  app.get('/api/health', async () => {
    await db.execute(sql`select 1`);
    return { status: 'ok' };
  });
}
