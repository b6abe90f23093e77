import type { FastifyInstance, FastifyRequest } from 'fastify';
import { eq } from 'drizzle-orm';
import { readDto } from '@gull-pane/protocol/dto';
import { TrailDto } from '@gull-pane/protocol/trail';
import { trails } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import type { Services } from './services.ts';

type OneDrawing = FastifyRequest<{ Params: { id: string } }>;

/** Where a drawing's pane has been, kept from one visit to the next. */
export function trailRoutes(app: FastifyInstance, { db }: Services): void {
  const repository = new DrawingsRepository(db);

  app.get('/api/drawings/:id/trail', async (request: OneDrawing): Promise<TrailDto> => {
    const { id } = await repository.find(idOf(request));
    const [row] = await db.select().from(trails).where(eq(trails.drawingId, id));
    return row?.trail ?? { views: [], current: 0 };
  });

  app.put('/api/drawings/:id/trail', async (request: OneDrawing, reply) => {
    const { id } = await repository.find(idOf(request));
    const trail = checked(() => readDto(TrailDto, request.body));
    const { views, current } = trail;
    const isTree = views.every(
      ({ parent, forward }, index) => parent < index && forward < views.length && (forward < 0 || forward > index),
    );
    if (!isTree || (views.length > 0 && current >= views.length))
      throw new Problem('bad-request', { detail: 'A view of the trail names another one that can’t be there.' });
    await db
      .insert(trails)
      .values({ drawingId: id, trail })
      .onConflictDoUpdate({ target: trails.drawingId, set: { trail } });
    return reply.status(204).send();
  });
}
