import { randomUUID } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, asc, eq, sql } from 'drizzle-orm';
import { readDto } from '@gull-pane/protocol/dto';
import { ChangeSheetSetDto, KeepSheetSetDto, type SheetSetDto } from '@gull-pane/protocol/sheet-sets';
import { sheetSets } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import type { Services } from './services.ts';
import { conflict, idOr, toldOf } from './versions.ts';

type OneThing = FastifyRequest<{ Params: { id: string } }>;
type Row = typeof sheetSets.$inferSelect;

/** A set of many sheets, JSON in bytes. */
const options = { bodyLimit: 4 * 1024 * 1024 };

/** Sheets of a drawing that are laid out for paper, with optimistic concurrency like the view cards', and the way to paper. */
export function sheetSetRoutes(app: FastifyInstance, { db, changes }: Services): void {
  const repository = new DrawingsRepository(db);
  const find = async (id: string): Promise<SheetSetDto> => {
    const [row] = await db.select().from(sheetSets).where(eq(sheetSets.id, id));
    if (!row) throw new Problem('sheet-set-not-found');
    return setOf(row);
  };
  const told = (row: Row): SheetSetDto => {
    const set = setOf(row);
    changes.tell({ kind: 'sheet-set', set });
    return set;
  };

  app.get('/api/drawings/:id/sheet-sets', async (request: OneThing): Promise<SheetSetDto[]> => {
    const { id } = await repository.find(idOf(request));
    const rows = await db
      .select()
      .from(sheetSets)
      .where(eq(sheetSets.drawingId, id))
      .orderBy(asc(sheetSets.position), sheetSets.id);
    return rows.map(setOf);
  });

  app.post('/api/drawings/:id/sheet-sets', options, async (request: OneThing, reply): Promise<SheetSetDto> => {
    const { id: drawingId } = await repository.find(idOf(request));
    const { id = randomUUID(), ...values } = checked(() => readDto(KeepSheetSetDto, request.body));
    const [row] = await db
      .insert(sheetSets)
      .values({ id, drawingId, ...values })
      .onConflictDoNothing({ target: sheetSets.id })
      .returning();
    if (!row) {
      const current = await find(id);
      throw new Problem('version-conflict', { detail: 'A set with this id is kept already.', current });
    }
    void reply.status(201);
    return told(row);
  });

  app.patch('/api/sheet-sets/:id', options, async (request: OneThing): Promise<SheetSetDto> => {
    const id = idOr('sheet-set-not-found', request);
    const { version, ...change } = checked(() => readDto(ChangeSheetSetDto, request.body));
    const [row] = await db
      .update(sheetSets)
      .set({ ...toldOf(change), version: version + 1, updatedAt: sql`now()` })
      .where(and(eq(sheetSets.id, id), eq(sheetSets.version, version)))
      .returning();
    if (!row) {
      const current = await find(id);
      throw conflict(current.name, current.version, version, current);
    }
    return told(row);
  });

  app.delete('/api/sheet-sets/:id', async (request: OneThing, reply) => {
    const [row] = await db
      .delete(sheetSets)
      .where(eq(sheetSets.id, idOr('sheet-set-not-found', request)))
      .returning({ id: sheetSets.id, drawingId: sheetSets.drawingId });
    if (!row) throw new Problem('sheet-set-not-found');
    changes.tell({ kind: 'sheet-set-gone', ...row });
    return reply.status(204).send();
  });
}

const setOf = ({ updatedAt, ...row }: Row): SheetSetDto => ({ ...row, updatedAt: updatedAt.toISOString() });
