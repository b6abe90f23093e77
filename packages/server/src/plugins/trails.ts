import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, desc, eq, inArray } from 'drizzle-orm';
import { readDto } from '@gull-pane/protocol/dto';
import { TrailDto } from '@gull-pane/protocol/trail';
import { mergeTrails } from '@gull-pane/protocol/merge-trails';
import { NO_WINDOW, trails } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import type { Services } from './services.ts';

type OneDrawing = FastifyRequest<{ Params: { id: string }; Querystring: { window?: string } }>;

/** So many windows' trails are kept of a drawing, those used last. */
const MOST_WINDOWS = 8;
const UUID = /^[\da-f]{8}(-[\da-f]{4}){3}-[\da-f]{12}$/i;

/** @throws Problem bad-request */
function windowOf({ query }: OneDrawing): string {
  const { window = NO_WINDOW } = query;
  if (!UUID.test(window)) throw new Problem('bad-request', { detail: `window must be a UUID, got “${window}”.` });
  return window;
}

/** Where a drawing's panes have been, kept from one visit to the next: each window has its own, and sees the others'. */
export function trailRoutes(app: FastifyInstance, { db }: Services): void {
  const repository = new DrawingsRepository(db);

  app.get('/api/drawings/:id/trail', async (request: OneDrawing): Promise<TrailDto> => {
    const [{ id }, window] = [await repository.find(idOf(request)), windowOf(request)];
    const rows = await db.select().from(trails).where(eq(trails.drawingId, id)).orderBy(desc(trails.updatedAt));
    // a window that has none yet goes on where the last one was
    const own = rows.find(({ windowId }) => windowId === window) ?? rows[0];
    if (!own) return { views: [], current: 0 };
    return mergeTrails(
      own.trail,
      rows.filter((row) => row !== own && row.trail.views.length > 0).map(({ trail }) => trail),
    );
  });

  app.put('/api/drawings/:id/trail', async (request: OneDrawing, reply) => {
    const [{ id }, windowId] = [await repository.find(idOf(request)), windowOf(request)];
    const trail = checked(() => readDto(TrailDto, request.body));
    const { views, current } = trail;
    const isTree = views.every(
      ({ parent, forward }, index) => parent < index && forward < views.length && (forward < 0 || forward > index),
    );
    if (!isTree || (views.length > 0 && current >= views.length))
      throw new Problem('bad-request', { detail: 'A view of the trail names another one that can’t be there.' });
    const updatedAt = new Date();
    await db
      .insert(trails)
      .values({ drawingId: id, windowId, trail, updatedAt })
      .onConflictDoUpdate({ target: [trails.drawingId, trails.windowId], set: { trail, updatedAt } });
    const kept = await db
      .select({ windowId: trails.windowId })
      .from(trails)
      .where(eq(trails.drawingId, id))
      .orderBy(desc(trails.updatedAt));
    const old = kept.slice(MOST_WINDOWS).map((row) => row.windowId);
    if (old.length > 0) await db.delete(trails).where(and(eq(trails.drawingId, id), inArray(trails.windowId, old)));
    return reply.status(204).send();
  });

  app.delete('/api/drawings/:id/trail', async (request: OneDrawing, reply) => {
    const { id } = await repository.find(idOf(request));
    await db.delete(trails).where(eq(trails.drawingId, id));
    return reply.status(204).send();
  });
}
