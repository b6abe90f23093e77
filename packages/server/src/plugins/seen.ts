import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, eq, sql } from 'drizzle-orm';
import { readDto } from '@gull-pane/protocol/dto';
import { SeenDto } from '@gull-pane/protocol/revisions';
import { seen } from '../db/schema.ts';
import { checked } from './checked.ts';
import { contentOf, idOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';

type OfPerson = FastifyRequest<{ Params: { id: string }; Querystring: { person?: string } }>;

/** A bit for each of 24 million objects, in base64. */
const options = { bodyLimit: 4 * 1024 * 1024 };
const MOST_PERSON = 80;

/** What people have seen of the revision that a drawing shows. */
export function seenRoutes(app: FastifyInstance, { db }: Services): void {
  const repository = new DrawingsRepository(db);
  const keyOf = async (
    request: OfPerson,
  ): Promise<Pick<typeof seen.$inferSelect, 'drawingId' | 'revision' | 'person'>> => {
    const { id: drawingId, revision } = await contentOf(repository, idOf(request));
    return { drawingId, revision, person: (request.query.person ?? '').slice(0, MOST_PERSON) };
  };

  app.get('/api/drawings/:id/seen', async (request: OfPerson): Promise<SeenDto> => {
    const { drawingId, revision, person } = await keyOf(request);
    const [row] = await db
      .select({ bits: seen.bits })
      .from(seen)
      .where(and(eq(seen.drawingId, drawingId), eq(seen.revision, revision), eq(seen.person, person)));
    return row ?? { bits: '' };
  });

  app.put('/api/drawings/:id/seen', options, async (request: OfPerson, reply) => {
    const key = await keyOf(request);
    const { bits } = checked(() => readDto(SeenDto, request.body));
    await db
      .insert(seen)
      .values({ ...key, bits })
      .onConflictDoUpdate({
        target: [seen.drawingId, seen.revision, seen.person],
        set: { bits, updatedAt: sql`now()` },
      });
    return reply.status(204).send();
  });
}
