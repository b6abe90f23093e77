import { createReadStream } from 'node:fs';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { and, eq, sql } from 'drizzle-orm';
import { USUAL_TOLERANCE } from '@gull-pane/core/compare/match-objects';
import { readDto } from '@gull-pane/protocol/dto';
import { KeepReviewDto, RenameRevisionDto, type ReviewDto, type RevisionDto } from '@gull-pane/protocol/revisions';
import { reviews } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { Comparisons } from '../revisions/comparisons.ts';
import { Revisions, toDto, type RevisionRow } from '../revisions/revisions.ts';
import { nameOf } from '../people/person.ts';
import { checked } from './checked.ts';
import { idOf } from './drawings.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';

type OneDrawing = FastifyRequest<{ Params: { id: string } }>;
type OneRevision = FastifyRequest<{ Params: { id: string; number: string } }>;
type Compared = FastifyRequest<{ Params: { id: string }; Querystring: Record<string, string | undefined> }>;

/** Revisions of a drawing, what differs between two, and what people say of it. */
export function revisionRoutes(app: FastifyInstance, { db, contents, removed, changes }: Services): void {
  const repository = new DrawingsRepository(db);
  const revisions = new Revisions(db, contents, removed);
  const comparisons = new Comparisons(contents);

  app.get('/api/drawings/:id/revisions', async (request: OneDrawing): Promise<RevisionDto[]> => {
    const { id, revision } = await repository.find(idOf(request));
    return (await revisions.of(id)).map((row) => toDto(row, revision));
  });

  app.patch('/api/drawings/:id/revisions/:number', async (request: OneRevision): Promise<RevisionDto> => {
    const { id, revision } = await repository.find(idOf(request));
    const { number } = await revisions.find(id, numberOf(request.params.number));
    await revisions.rename(id, number, checked(() => readDto(RenameRevisionDto, request.body)).name.trim());
    return toDto(await revisions.find(id, number), revision);
  });

  app.delete('/api/drawings/:id/revisions/:number', async (request: OneRevision, reply) => {
    const { id, revision } = await repository.find(idOf(request));
    const { number } = await revisions.find(id, numberOf(request.params.number));
    if (number === revision) throw new Problem('revision-in-use');
    await revisions.remove(id, number);
    return reply.status(204).send();
  });

  /** Which two are compared: the newest two that are kept, unless others are asked for. */
  const pairOf = async (request: Compared): Promise<readonly [from: RevisionRow, to: RevisionRow]> => {
    const { id, revision } = await repository.find(idOf(request));
    if (revision === 0) throw new Problem('drawing-not-ready');
    const { from, to } = request.query;
    const later = await revisions.find(id, to === undefined ? revision : numberOf(to));
    const earlier = (await revisions.of(id)).find(({ number }) =>
      from === undefined ? number < later.number : number === numberOf(from),
    );
    if (!earlier) throw new Problem('revision-not-found', { detail: 'The drawing keeps no such earlier revision.' });
    return [earlier, later];
  };

  app.get('/api/drawings/:id/comparison', async (request: Compared, reply) => {
    const [from, to] = await pairOf(request);
    const tolerance = Number(request.query.tolerance ?? USUAL_TOLERANCE);
    if (!(tolerance > 0 && tolerance < 1e6)) throw new Problem('bad-request', { detail: 'tolerance must be above 0.' });
    const file = await comparisons.file(from, to, tolerance);
    return reply.type('application/json').header('cache-control', 'private, no-cache').send(createReadStream(file));
  });

  const ofPair = ([from, to]: readonly [RevisionRow, RevisionRow]) =>
    and(eq(reviews.drawingId, to.drawingId), eq(reviews.fromRevision, from.number), eq(reviews.toRevision, to.number));

  app.get('/api/drawings/:id/comparison/reviews', async (request: Compared): Promise<ReviewDto[]> => {
    const rows = await db
      .select()
      .from(reviews)
      .where(ofPair(await pairOf(request)));
    return rows.map(({ change, person, state, note, updatedAt }) => ({
      change,
      person,
      state,
      note,
      updatedAt: updatedAt.toISOString(),
    }));
  });

  app.put('/api/drawings/:id/comparison/reviews', async (request: Compared, reply) => {
    const pair = await pairOf(request);
    const [from, to] = pair;
    const { change, person: named, state, note } = checked(() => readDto(KeepReviewDto, request.body));
    const person = nameOf(request, named);
    const own = and(ofPair(pair), eq(reviews.change, change), eq(reviews.person, person));
    if (state === 'open') await db.delete(reviews).where(own);
    else
      await db
        .insert(reviews)
        .values({
          drawingId: to.drawingId,
          fromRevision: from.number,
          toRevision: to.number,
          change,
          person,
          state,
          note,
        })
        .onConflictDoUpdate({
          target: [reviews.drawingId, reviews.fromRevision, reviews.toRevision, reviews.change, reviews.person],
          set: { state, note, updatedAt: sql`now()` },
        });
    changes.tell({ kind: 'reviews', drawingId: to.drawingId });
    return reply.status(204).send();
  });
}

/** @throws Problem revision-not-found for what is no number of a revision */
function numberOf(text: string): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1) throw new Problem('revision-not-found');
  return number;
}
