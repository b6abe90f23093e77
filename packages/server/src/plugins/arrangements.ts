import { randomUUID } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, asc, eq, getTableColumns, sql } from 'drizzle-orm';
import {
  ChangeArrangementDto,
  KeepArrangementDto,
  MOST_ARRANGEMENT_BYTES,
  type ArrangedDto,
  type ArrangementDto,
  type ArrangementHeadDto,
} from '@gull-pane/protocol/arrangements';
import { panesOf } from '@gull-pane/core/panes/tiling';
import { readDto } from '@gull-pane/protocol/dto';
import { arrangements } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checked } from './checked.ts';
import { pictureAddress, sendPicture } from './pictures.ts';
import type { Services } from './services.ts';
import { changeIn, conflict, idOr, toldOf, versionOf } from './versions.ts';

type OneArrangement = FastifyRequest<{ Params: { id: string } }>;

const { picture, arranged: whole, ...plain } = getTableColumns(arrangements);
const head = {
  ...plain,
  hasPicture: sql<boolean>`${picture} <> ''`,
  panes: sql<number>`jsonb_array_length(${whole} -> 'panes')`,
};
type Head = Omit<typeof arrangements.$inferSelect, 'picture' | 'arranged'> & {
  readonly hasPicture: boolean;
  readonly panes: number;
};
const options = { bodyLimit: MOST_ARRANGEMENT_BYTES };

/** Arrangements of panes that are kept, with optimistic concurrency like the view cards'. */
export function arrangementRoutes(app: FastifyInstance, { db, changes }: Services): void {
  const findBoth = async (id: string): Promise<{ arrangement: ArrangementHeadDto; arranged: ArrangedDto }> => {
    const [row] = await db
      .select({ ...head, arranged: whole })
      .from(arrangements)
      .where(eq(arrangements.id, id));
    if (!row) throw new Problem('arrangement-not-found');
    return { arrangement: headOf(row), arranged: row.arranged };
  };
  const find = async (id: string): Promise<ArrangementDto> => {
    const { arrangement, arranged } = await findBoth(id);
    return { ...arrangement, arranged };
  };
  const told = async (id: string): Promise<ArrangementDto> => {
    const { arrangement, arranged } = await findBoth(id);
    changes.tell({ kind: 'arrangement', arrangement });
    return { ...arrangement, arranged };
  };

  app.get('/api/arrangements', async (): Promise<ArrangementHeadDto[]> => {
    const rows = await db.select(head).from(arrangements).orderBy(asc(arrangements.position), arrangements.id);
    return rows.map(headOf);
  });

  app.get('/api/arrangements/:id', (request: OneArrangement): Promise<ArrangementDto> =>
    find(idOr('arrangement-not-found', request)),
  );

  app.get('/api/arrangements/:id/picture', async (request: OneArrangement, reply) => {
    const id = idOr('arrangement-not-found', request);
    const [row] = await db.select({ picture }).from(arrangements).where(eq(arrangements.id, id));
    if (!row) throw new Problem('arrangement-not-found');
    return sendPicture(reply, row.picture);
  });

  app.post('/api/arrangements', options, async (request, reply): Promise<ArrangementDto> => {
    const { id = randomUUID(), ...values } = checked(() => readDto(KeepArrangementDto, request.body));
    checkPanes(values.arranged);
    const [row] = await db
      .insert(arrangements)
      .values({ id, ...values })
      .onConflictDoNothing({ target: arrangements.id })
      .returning({ id: arrangements.id });
    if (!row) {
      const current = await find(id);
      throw new Problem('version-conflict', { detail: 'An arrangement with this id is kept already.', current });
    }
    void reply.status(201);
    return told(id);
  });

  app.patch('/api/arrangements/:id', options, async (request: OneArrangement): Promise<ArrangementDto> => {
    const id = idOr('arrangement-not-found', request);
    const { version, ...change } = checked(() => readDto(ChangeArrangementDto, changeIn(request)));
    if (change.arranged) checkPanes(change.arranged);
    const [row] = await db
      .update(arrangements)
      .set({ ...toldOf(change), version: version + 1, updatedAt: sql`now()` })
      .where(and(eq(arrangements.id, id), eq(arrangements.version, version)))
      .returning({ id: arrangements.id });
    if (!row) {
      const current = await find(id);
      throw conflict(request, current, version, current);
    }
    return told(id);
  });

  app.delete('/api/arrangements/:id', async (request: OneArrangement, reply) => {
    const [id, version] = [idOr('arrangement-not-found', request), versionOf(request)];
    const [row] = await db
      .delete(arrangements)
      .where(and(eq(arrangements.id, id), version === null ? undefined : eq(arrangements.version, version)))
      .returning({ id: arrangements.id });
    if (!row) {
      const current = await find(id);
      throw conflict(request, current, version ?? current.version, current);
    }
    changes.tell({ kind: 'arrangement-gone', id: row.id });
    return reply.status(204).send();
  });
}

/** @throws Problem bad-request if the tiling names other panes than those that are told */
export function checkPanes({ tiling, panes, active, ties }: ArrangedDto): void {
  const tiled = panesOf(tiling);
  const told = panes.map(({ pane }) => pane);
  const areSame = tiled.length === told.length && tiled.every((pane) => told.includes(pane));
  const isKnown = (pane: string): boolean => told.includes(pane);
  if (areSame && isKnown(active) && ties.every(({ one, other }) => isKnown(one) && isKnown(other) && one !== other))
    return;
  throw new Problem('bad-request', { detail: 'arranged: tiling, panes, ties and active must name the same panes.' });
}

const headOf = ({ id, name, position, version, updatedAt, hasPicture, panes }: Head): ArrangementHeadDto => ({
  id,
  name,
  position,
  version,
  panes,
  updatedAt: updatedAt.toISOString(),
  picture: pictureAddress(`/api/arrangements/${id}`, version, hasPicture),
});
