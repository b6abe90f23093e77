import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, desc, eq, lt, sql } from 'drizzle-orm';
import { USUAL_TOLERANCE } from '@gull-pane/core/compare/match-objects';
import { idOfAddress } from '@gull-pane/protocol/drawings';
import { readDto } from '@gull-pane/protocol/dto';
import { SeenDto } from '@gull-pane/protocol/revisions';
import { seen } from '../db/schema.ts';
import { carriedBits } from '../revisions/carried-bits.ts';
import { Comparisons } from '../revisions/comparisons.ts';
import { Revisions } from '../revisions/revisions.ts';
import { nameOf } from '../people/person.ts';
import { checked } from './checked.ts';
import { contentOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';

type OfPerson = FastifyRequest<{ Params: { id: string }; Querystring: { person?: string } }>;

/** A bit for each of 24 million objects, in base64. */
const options = { bodyLimit: 4 * 1024 * 1024 };
const MOST_PERSON = 80;

/** What people have seen of the revision that a drawing shows. */
export function seenRoutes(app: FastifyInstance, { db, contents, removed }: Services): void {
  const repository = new DrawingsRepository(db);
  const keyOf = async (
    request: OfPerson,
  ): Promise<Pick<typeof seen.$inferSelect, 'drawingId' | 'revision' | 'person'>> => {
    const { id, revision } = await contentOf(repository, request);
    return {
      drawingId: idOfAddress(id),
      revision,
      person: nameOf(request, request.query.person ?? '').slice(0, MOST_PERSON),
    };
  };

  const revisions = new Revisions(db, contents, removed);
  const comparisons = new Comparisons(contents);
  /** What was seen of the revision before, and hasn't changed since: only the rest is unseen again. */
  const carriedOver = async (drawingId: string, revision: number, person: string): Promise<string> => {
    const [former] = await db
      .select({ revision: seen.revision, bits: seen.bits })
      .from(seen)
      .where(and(eq(seen.drawingId, drawingId), lt(seen.revision, revision), eq(seen.person, person)))
      .orderBy(desc(seen.revision))
      .limit(1);
    const kept = former ? await revisions.of(drawingId) : [];
    const [from, to] = [former?.revision, revision].map((number) => kept.find((row) => row.number === number));
    if (!former || !from || !to) return '';
    return carriedBits(former.bits, await comparisons.same(from, to, USUAL_TOLERANCE));
  };

  app.get('/api/drawings/:id/seen', async (request: OfPerson): Promise<SeenDto> => {
    const { drawingId, revision, person } = await keyOf(request);
    const [row] = await db
      .select({ bits: seen.bits })
      .from(seen)
      .where(and(eq(seen.drawingId, drawingId), eq(seen.revision, revision), eq(seen.person, person)));
    return row ?? { bits: await carriedOver(drawingId, revision, person) };
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
