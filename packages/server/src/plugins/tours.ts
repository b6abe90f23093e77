import { randomUUID } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, asc, eq, sql } from 'drizzle-orm';
import { readDto } from '@gull-pane/protocol/dto';
import { ChangeTourDto, KeepTourDto, type TourDto } from '@gull-pane/protocol/tours';
import { tours } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import type { Services } from './services.ts';
import { conflict, idOr, toldOf } from './versions.ts';

type OneThing = FastifyRequest<{ Params: { id: string } }>;
type Row = typeof tours.$inferSelect;

/** A tour of many stops with captions, JSON in bytes. */
const options = { bodyLimit: 512 * 1024 };

/** Tours through the views of a drawing, with optimistic concurrency like the view cards'. */
export function tourRoutes(app: FastifyInstance, { db, changes }: Services): void {
  const repository = new DrawingsRepository(db);
  const find = async (id: string): Promise<TourDto> => {
    const [row] = await db.select().from(tours).where(eq(tours.id, id));
    if (!row) throw new Problem('tour-not-found');
    return tourOf(row);
  };
  const told = (row: Row): TourDto => {
    const tour = tourOf(row);
    changes.tell({ kind: 'tour', tour });
    return tour;
  };

  app.get('/api/drawings/:id/tours', async (request: OneThing): Promise<TourDto[]> => {
    const { id } = await repository.find(idOf(request));
    const rows = await db.select().from(tours).where(eq(tours.drawingId, id)).orderBy(asc(tours.position), tours.id);
    return rows.map(tourOf);
  });

  app.post('/api/drawings/:id/tours', options, async (request: OneThing, reply): Promise<TourDto> => {
    const { id: drawingId } = await repository.find(idOf(request));
    const { id = randomUUID(), ...values } = checked(() => readDto(KeepTourDto, request.body));
    const [row] = await db
      .insert(tours)
      .values({ id, drawingId, ...values })
      .onConflictDoNothing({ target: tours.id })
      .returning();
    if (!row) {
      const current = await find(id);
      throw new Problem('version-conflict', { detail: 'A tour with this id is kept already.', current });
    }
    void reply.status(201);
    return told(row);
  });

  app.patch('/api/tours/:id', options, async (request: OneThing): Promise<TourDto> => {
    const id = idOr('tour-not-found', request);
    const { version, ...change } = checked(() => readDto(ChangeTourDto, request.body));
    const [row] = await db
      .update(tours)
      .set({ ...toldOf(change), version: version + 1, updatedAt: sql`now()` })
      .where(and(eq(tours.id, id), eq(tours.version, version)))
      .returning();
    if (!row) {
      const current = await find(id);
      throw conflict(current.name, current.version, version, current);
    }
    return told(row);
  });

  app.delete('/api/tours/:id', async (request: OneThing, reply) => {
    const [row] = await db
      .delete(tours)
      .where(eq(tours.id, idOr('tour-not-found', request)))
      .returning({ id: tours.id, drawingId: tours.drawingId });
    if (!row) throw new Problem('tour-not-found');
    changes.tell({ kind: 'tour-gone', ...row });
    return reply.status(204).send();
  });
}

const tourOf = ({ updatedAt, ...row }: Row): TourDto => ({ ...row, updatedAt: updatedAt.toISOString() });
