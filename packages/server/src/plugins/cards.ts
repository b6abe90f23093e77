import { randomUUID } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, asc, eq, getTableColumns, sql } from 'drizzle-orm';
import { ChangeCardDto, KeepCardDto, type CardDto } from '@gull-pane/protocol/cards';
import { readDto } from '@gull-pane/protocol/dto';
import { cards } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import { pictureAddress, sendPicture } from './pictures.ts';
import type { Services } from './services.ts';
import { changeIn, conflict, idOr, toldOf, versionOf } from './versions.ts';

type OneDrawing = FastifyRequest<{ Params: { id: string } }>;
type OneCard = OneDrawing;

const { picture, ...withoutPicture } = getTableColumns(cards);
/** All that a list tells, without reading the pictures. */
const columns = { ...withoutPicture, hasPicture: sql<boolean>`${picture} <> ''` };
type Row = Omit<typeof cards.$inferSelect, 'picture'> & { readonly hasPicture: boolean };

/** A card with its picture and what was written about it, JSON in bytes. */
const options = { bodyLimit: 1024 * 1024 };

/** Views of a drawing that are kept, with optimistic concurrency: a change tells which version it was made of. */
export function cardRoutes(app: FastifyInstance, { db, changes }: Services): void {
  const repository = new DrawingsRepository(db);
  const find = async (id: string): Promise<CardDto> => {
    const [row] = await db.select(columns).from(cards).where(eq(cards.id, id));
    if (!row) throw new Problem('card-not-found');
    return cardOf(row);
  };
  const told = (row: Row): CardDto => {
    const card = cardOf(row);
    changes.tell({ kind: 'card', card });
    return card;
  };

  app.get('/api/drawings/:id/cards', async (request: OneDrawing): Promise<CardDto[]> => {
    const { id } = await repository.find(idOf(request));
    const rows = await db
      .select(columns)
      .from(cards)
      .where(eq(cards.drawingId, id))
      .orderBy(asc(cards.position), cards.id);
    return rows.map(cardOf);
  });

  app.get('/api/cards/:id', (request: OneCard): Promise<CardDto> => find(idOr('card-not-found', request)));

  app.get('/api/cards/:id/picture', async (request: OneCard, reply) => {
    const [row] = await db
      .select({ picture })
      .from(cards)
      .where(eq(cards.id, idOr('card-not-found', request)));
    if (!row) throw new Problem('card-not-found');
    return sendPicture(reply, row.picture);
  });

  app.post('/api/drawings/:id/cards', options, async (request: OneDrawing, reply): Promise<CardDto> => {
    const { id: drawingId } = await repository.find(idOf(request));
    const sent = checked(() => readDto(KeepCardDto, request.body));
    const { id = randomUUID(), position, picture: own, ...content } = sent;
    const [row] = await db
      .insert(cards)
      .values({ id, drawingId, position, content, picture: own })
      .onConflictDoNothing({ target: cards.id })
      .returning(columns);
    if (!row) {
      const current = await find(id);
      throw new Problem('version-conflict', { detail: 'A view with this id is kept already.', current });
    }
    void reply.status(201);
    return told(row);
  });

  app.patch('/api/cards/:id', options, async (request: OneCard): Promise<CardDto> => {
    const id = idOr('card-not-found', request);
    const { version, position, picture: own, ...change } = checked(() => readDto(ChangeCardDto, changeIn(request)));
    const [before] = await db.select({ content: cards.content }).from(cards).where(eq(cards.id, id));
    if (!before) throw new Problem('card-not-found');
    const [row] = await db
      .update(cards)
      .set({
        version: version + 1,
        updatedAt: sql`now()`,
        content: { ...before.content, ...toldOf(change) },
        ...toldOf({ position, picture: own }),
      })
      .where(and(eq(cards.id, id), eq(cards.version, version)))
      .returning(columns);
    if (!row) {
      const current = await find(id);
      throw conflict(request, current, version, current);
    }
    return told(row);
  });

  app.delete('/api/cards/:id', async (request: OneCard, reply) => {
    const [id, version] = [idOr('card-not-found', request), versionOf(request)];
    const [row] = await db
      .delete(cards)
      .where(and(eq(cards.id, id), version === null ? undefined : eq(cards.version, version)))
      .returning({ id: cards.id, drawingId: cards.drawingId });
    if (!row) {
      const current = await find(id);
      throw conflict(request, current, version ?? current.version, current);
    }
    changes.tell({ kind: 'card-gone', ...row });
    return reply.status(204).send();
  });
}

const cardOf = ({ id, drawingId, version, position, content, updatedAt, hasPicture }: Row): CardDto => ({
  ...content,
  id,
  drawingId,
  version,
  position,
  updatedAt: updatedAt.toISOString(),
  picture: pictureAddress(`/api/cards/${id}`, version, hasPicture),
});
