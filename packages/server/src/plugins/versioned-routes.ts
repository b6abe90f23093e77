import { randomUUID } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, asc, eq, sql } from 'drizzle-orm';
import { readDto } from '@gull-pane/protocol/dto';
import type { ChangeEvent } from '@gull-pane/protocol/events';
import type { ProblemCode } from '@gull-pane/protocol/problems';
import type { sheetSets, tours } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import { idOf } from './drawings.ts';
import type { Services } from './services.ts';
import { changeIn, conflict, idOr, toldOf, versionOf } from './versions.ts';

/** Tables of things that belong to a drawing, each with a name, a place and a version. */
type VersionedTable = typeof tours | typeof sheetSets;

/** A kind of such things. */
export interface VersionedKind<Told> {
  /** What stands in addresses. */
  readonly path: string;
  readonly table: VersionedTable;
  readonly bodyLimit: number;
  readonly notFound: ProblemCode;
  /** Says that one of this id is kept already. */
  readonly keptAlready: string;
  readonly keep: new () => { id?: string };
  readonly change: new () => { version: number };
  readonly changed: (told: Told) => ChangeEvent;
  readonly gone: (row: { readonly id: string; readonly drawingId: string }) => ChangeEvent;
}

type OneThing = FastifyRequest<{ Params: { id: string } }>;

/** Kept, listed, changed and deleted with optimistic concurrency: a change tells which version it was made of. */
export function versionedRoutes<Told extends { readonly name: string; readonly version: number }>(
  app: FastifyInstance,
  { db, changes }: Services,
  kind: VersionedKind<Told>,
): void {
  const repository = new DrawingsRepository(db);
  // the tables differ in what they hold, which nothing here looks at
  const table = kind.table as typeof tours;
  const options = { bodyLimit: kind.bodyLimit };
  const toldAs = ({ updatedAt, ...row }: typeof tours.$inferSelect): Told =>
    ({ ...row, updatedAt: updatedAt.toISOString() }) as unknown as Told;
  const find = async (id: string): Promise<Told> => {
    const [row] = await db.select().from(table).where(eq(table.id, id));
    if (!row) throw new Problem(kind.notFound);
    return toldAs(row);
  };
  const tell = (row: typeof tours.$inferSelect): Told => {
    const told = toldAs(row);
    changes.tell(kind.changed(told));
    return told;
  };

  app.get(`/api/drawings/:id/${kind.path}`, async (request: OneThing): Promise<Told[]> => {
    const { id } = await repository.find(idOf(request));
    const rows = await db.select().from(table).where(eq(table.drawingId, id)).orderBy(asc(table.position), table.id);
    return rows.map(toldAs);
  });

  app.get(`/api/${kind.path}/:id`, (request: OneThing): Promise<Told> => find(idOr(kind.notFound, request)));

  app.post(`/api/drawings/:id/${kind.path}`, options, async (request: OneThing, reply): Promise<Told> => {
    const { id: drawingId } = await repository.find(idOf(request));
    const { id = randomUUID(), ...values } = checked(() => readDto(kind.keep, request.body));
    const [row] = await db
      .insert(table)
      .values({ ...(values as typeof tours.$inferInsert), id, drawingId })
      .onConflictDoNothing({ target: table.id })
      .returning();
    if (!row) throw new Problem('version-conflict', { detail: kind.keptAlready, current: await find(id) });
    void reply.status(201);
    return tell(row);
  });

  app.patch(`/api/${kind.path}/:id`, options, async (request: OneThing): Promise<Told> => {
    const id = idOr(kind.notFound, request);
    const { version, ...change } = checked(() => readDto(kind.change, changeIn(request)));
    const [row] = await db
      .update(table)
      .set({ ...toldOf(change), version: version + 1, updatedAt: sql`now()` })
      .where(and(eq(table.id, id), eq(table.version, version)))
      .returning();
    if (!row) {
      const current = await find(id);
      throw conflict(request, current, version, current);
    }
    return tell(row);
  });

  app.delete(`/api/${kind.path}/:id`, async (request: OneThing, reply) => {
    const [id, version] = [idOr(kind.notFound, request), versionOf(request)];
    const [row] = await db
      .delete(table)
      .where(and(eq(table.id, id), version === null ? undefined : eq(table.version, version)))
      .returning({ id: table.id, drawingId: table.drawingId });
    if (!row) {
      const current = await find(id);
      throw conflict(request, current, version ?? current.version, current);
    }
    changes.tell(kind.gone(row));
    return reply.status(204).send();
  });
}
