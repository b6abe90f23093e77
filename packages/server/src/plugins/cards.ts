import { randomUUID } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, asc, eq, sql } from 'drizzle-orm';
import { ChangeCardDto, KeepCardDto, type CardDto } from '@gull-pane/protocol/cards';
import { readDto } from '@gull-pane/protocol/dto';
import { cards } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import type { Services } from './services.ts';

type OneDrawing = FastifyRequest<{ Params: { id: string } }>;
type Row = typeof cards.$inferSelect;

/** Views of a drawing that are kept, with optimistic concurrency: a change tells which version it was made of. */
export function cardRoutes(app: FastifyInstance, { db }: Services): void {
  const repository = new DrawingsRepository(db);

  app.get('/api/drawings/:id/cards', async (request: OneDrawing): Promise<CardDto[]> => {
    const { id } = await repository.find(idOf(request));
    const rows = await db.select().from(cards).where(eq(cards.drawingId, id)).orderBy(asc(cards.position), cards.id);
    return rows.map(cardOf);
  });

  app.post('/api/drawings/:id/cards', async (request: OneDrawing, reply): Promise<CardDto> => {
    const { id: drawingId } = await repository.find(idOf(request));
    const { id = randomUUID(), position, ...content } = checked(() => readDto(KeepCardDto, request.body));
    const [row] = await db
      .insert(cards)
      .values({ id, drawingId, position, content })
      .onConflictDoNothing({ target: cards.id })
      .returning();
    if (!row) throw new Problem('version-conflict', { detail: 'A view with this id is kept already.' });
    void reply.status(201);
    return cardOf(row);
  });

  app.patch('/api/cards/:id', async (request: OneDrawing): Promise<CardDto> => {
    const id = cardIdOf(request);
    const { version, position, ...change } = checked(() => readDto(ChangeCardDto, request.body));
    const [before] = await db.select().from(cards).where(eq(cards.id, id));
    if (!before) throw new Problem('card-not-found');
    // fields that aren't told are there, but undefined
    const fields: readonly (readonly [string, unknown])[] = Object.entries(change);
    const told = Object.fromEntries(fields.filter(([, value]) => value !== undefined));
    const [row] = await db
      .update(cards)
      .set({
        ...{ version: version + 1, updatedAt: sql`now()`, content: { ...before.content, ...told } },
        ...(position === undefined ? {} : { position }),
      })
      .where(and(eq(cards.id, id), eq(cards.version, version)))
      .returning();
    if (!row) {
      const { name } = before.content;
      throw new Problem('version-conflict', {
        detail: `“${name}” is at version ${before.version}, the change was made of ${version}.`,
      });
    }
    return cardOf(row);
  });

  app.delete('/api/cards/:id', async (request: OneDrawing, reply) => {
    const [row] = await db
      .delete(cards)
      .where(eq(cards.id, cardIdOf(request)))
      .returning();
    if (!row) throw new Problem('card-not-found');
    return reply.status(204).send();
  });
}

function cardIdOf(request: OneDrawing): string {
  try {
    return idOf(request);
  } catch {
    throw new Problem('card-not-found');
  }
}

const cardOf = ({ id, drawingId, version, position, content, updatedAt }: Row): CardDto => ({
  ...content,
  ...{ id, drawingId, version, position, updatedAt: updatedAt.toISOString() },
});
