import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, asc, count, eq, inArray, isNull, lt, sql } from 'drizzle-orm';
import { readDto } from '@gull-pane/protocol/dto';
import { ChangeMarksDto, MOST_MARKS, type MarkDto } from '@gull-pane/protocol/marks';
import type { Database } from '../db/database.ts';
import { marks } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import type { Services } from './services.ts';

type OneThing = FastifyRequest<{ Params: { id: string } }>;

/** A hatch has as many places as the lines around it. */
const options = { bodyLimit: 8 * 1024 * 1024 };

/** The marks of a drawing in the order in which they were drawn. */
export async function marksOf(db: Database, drawingId: string): Promise<MarkDto[]> {
  const isHere = and(eq(marks.drawingId, drawingId), isNull(marks.removedAt));
  const rows = await db.select().from(marks).where(isHere).orderBy(asc(marks.serial));
  return rows.map(({ id, content }) => ({ ...content, id }));
}

/** Marks on top of a drawing: read together, changed together; the last change of a mark holds. */
export function markRoutes(app: FastifyInstance, { db, changes }: Services): void {
  const repository = new DrawingsRepository(db);

  app.get('/api/drawings/:id/marks', async (request: OneThing): Promise<MarkDto[]> => {
    const { id } = await repository.find(idOf(request));
    return marksOf(db, id);
  });

  app.patch('/api/drawings/:id/marks', options, async (request: OneThing, reply) => {
    const { id: drawingId } = await repository.find(idOf(request));
    const { put, remove, by } = checked(() => readDto(ChangeMarksDto, request.body));
    await db.transaction(async (tx) => {
      if (remove.length > 0)
        await tx
          .update(marks)
          .set({ removedAt: sql`now()` })
          .where(and(eq(marks.drawingId, drawingId), inArray(marks.id, remove)));
      await tx
        .delete(marks)
        .where(and(eq(marks.drawingId, drawingId), lt(marks.removedAt, sql`now() - interval '1 day'`)));
      for (const { id, ...content } of put) {
        const [row] = await tx
          .insert(marks)
          .values({ id, drawingId, content })

          .onConflictDoUpdate({
            target: marks.id,
            set: { content, removedAt: null },
            setWhere: eq(marks.drawingId, drawingId),
          })
          .returning({ id: marks.id });
        if (!row) throw new Problem('bad-request', { detail: `The mark ${id} is of another drawing.` });
      }
      const isHere = and(eq(marks.drawingId, drawingId), isNull(marks.removedAt));
      const [all] = await tx.select({ marks: count() }).from(marks).where(isHere);
      if ((all?.marks ?? 0) > MOST_MARKS)
        throw new Problem('bad-request', { detail: `A drawing can have ${MOST_MARKS} marks.` });
    });
    changes.tell({ kind: 'marks', drawingId, put, remove, by });
    return reply.status(204).send();
  });
}
