import { createHash, randomUUID } from 'node:crypto';
import { copyFile } from 'node:fs/promises';
import { eq, inArray } from 'drizzle-orm';
import type { CardShowsDto } from '@gull-pane/protocol/cards';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { PackageCountsDto, PackageTakenDto, Taking } from '@gull-pane/protocol/packages';
import type { Database } from '../db/database.ts';
import { arrangements, cards, marks, sheetSets, tours } from '../db/schema.ts';
import { DrawingsRepository } from '../plugins/drawings-repository.ts';
import type { Services } from '../plugins/services.ts';
import { Problem } from '../problem.ts';
import type { PackageContent } from './read-package.ts';

/** Of what a package holds, how much is here already. */
export async function knownOf(db: Database, content: PackageContent): Promise<PackageCountsDto> {
  const ids = (list: readonly { readonly id?: string }[]): string[] => list.flatMap(({ id }) => id ?? []);
  const count = async (table: typeof cards | typeof tours | typeof arrangements, wanted: string[]): Promise<number> =>
    wanted.length === 0 ? 0 : (await db.select({ id: table.id }).from(table).where(inArray(table.id, wanted))).length;
  return {
    cards: await count(cards, ids(content.cards)),
    tours: await count(tours, ids(content.tours)),
    arrangements: await count(arrangements, ids(content.arrangements)),
    pickSets: 0,
  };
}

/**
 * Takes a package over. `new`: a drawing of its own, whatever is here. `merge`: the drawing that is here stays as it is, and
 * gets what it doesn't have yet. `replace`: that drawing gets the package's file, views and tours instead of its own.
 * @throws Problem drawing-not-found where there is nothing to merge with or to replace, import-running
 */
export async function takePackage(services: Services, content: PackageContent, how: Taking): Promise<PackageTakenDto> {
  const { db, imports, contents, changes } = services;
  const repository = new DrawingsRepository(db);
  const { drawing: packed } = content.manifest;
  const here = (await repository.list()).find(({ id }) => id === packed.id) ?? null;
  if (how !== 'new' && !here) throw new Problem('drawing-not-found', { detail: `“${packed.name}” isn’t here.` });
  if (how === 'replace' && here !== null && here.jobId !== null) throw new Problem('import-running');
  // ids stay, so that a package comes home as what it was; a second drawing of the same needs others
  const isCopy = how === 'new' && here !== null;
  const drawingId = isCopy ? randomUUID() : packed.id;
  const revision =
    how === 'new' ? 1 : how === 'replace' ? here!.revision + 1 : await sameRevision(services, content, here!);
  let jobId: string | undefined;
  if (how !== 'merge') {
    jobId = imports.newId();
    const path = await contents.incoming();
    await copyFile(content.source, path);
    await contents.keepSource(jobId, path);
    if (how === 'new') await repository.add(drawingId, packed.name, bytesOfSource(content));
    else await repository.rename(drawingId, packed.name);
    if (packed.home) await repository.setHome(drawingId, packed.home);
  }
  const undo = async (): Promise<void> => {
    if (jobId !== undefined) await contents.removeSource(jobId);
    if (how === 'new') await repository.remove(drawingId);
  };
  const added = await db
    .transaction(async (tx) => {
      if (how === 'replace') {
        await tx.delete(cards).where(eq(cards.drawingId, drawingId));
        await tx.delete(marks).where(eq(marks.drawingId, drawingId));
        await tx.delete(tours).where(eq(tours.drawingId, drawingId));
        await tx.delete(sheetSets).where(eq(sheetSets.drawingId, drawingId));
      }
      return addAll(tx, content, { drawingId, revision, isCopy });
    })
    .catch(async (error: unknown) => {
      await undo();
      throw error;
    });
  if (jobId !== undefined) await imports.queue(drawingId, jobId, bytesOfSource(content));
  changes.tell({ kind: 'views', drawingId });
  return {
    drawingId,
    ...(jobId === undefined ? {} : { jobId }),
    added: { ...added, pickSets: content.pickSets.length },
    pickSets: [...content.pickSets],
  };
}

const bytesOfSource = ({ manifest }: PackageContent): number =>
  manifest.files.find(({ path }) => path === 'source')?.bytes ?? 0;

/** The revision whose objects the package's views mean: the present one if it was made of the same file, else none. */
async function sameRevision({ contents }: Services, { manifest }: PackageContent, here: DrawingDto): Promise<number> {
  const hash = createHash('sha256');
  try {
    const source = await contents.open(here.id, here.revision, 'source');
    if (!source) return 0;
    for await (const piece of source.stream) hash.update(piece as Buffer);
  } catch {
    return 0;
  }
  return hash.digest('hex') === manifest.files.find(({ path }) => path === 'source')?.sha256 ? here.revision : 0;
}

interface Place {
  readonly drawingId: string;
  readonly revision: number;
  /** Everything gets ids of its own. */
  readonly isCopy: boolean;
}

async function addAll(
  db: Database,
  content: PackageContent,
  { drawingId, revision, isCopy }: Place,
): Promise<Omit<PackageCountsDto, 'pickSets'>> {
  const shownIn = (shows: CardShowsDto): CardShowsDto => ({ ...shows, revision });
  const idOfCard = new Map(content.cards.map(({ id }) => [id, isCopy || id === undefined ? randomUUID() : id]));
  const count = { cards: 0, tours: 0, arrangements: 0 };
  for (const { id, position, picture, ...view } of content.cards) {
    const row = {
      id: idOfCard.get(id)!,
      drawingId,
      position,
      picture,
      content: { ...view, shows: shownIn(view.shows) },
    };
    const kept = await db
      .insert(cards)
      .values(row)
      .onConflictDoNothing({ target: cards.id })
      .returning({ id: cards.id });
    count.cards += kept.length;
  }
  for (const { id, stops, ...tour } of content.tours) {
    const own = isCopy || id === undefined ? randomUUID() : id;
    const row = {
      ...tour,
      id: own,
      drawingId,
      stops: stops.map((stop) => ({ ...stop, cardId: idOfCard.get(stop.cardId) ?? stop.cardId })),
    };
    const kept = await db
      .insert(tours)
      .values(row)
      .onConflictDoNothing({ target: tours.id })
      .returning({ id: tours.id });
    count.tours += kept.length;
  }
  for (const { id, arranged, ...arrangement } of content.arrangements) {
    const own = isCopy || id === undefined ? randomUUID() : id;
    const panes = arranged.panes.map((pane) => ({ ...pane, drawingId, shows: shownIn(pane.shows) }));
    const row = { ...arrangement, id: own, arranged: { ...arranged, panes } };
    const kept = await db
      .insert(arrangements)
      .values(row)
      .onConflictDoNothing({ target: arrangements.id })
      .returning({ id: arrangements.id });
    count.arrangements += kept.length;
  }
  for (const { id, ...mark } of content.marks)
    await db
      .insert(marks)
      .values({ id: isCopy ? randomUUID() : id, drawingId, content: mark })
      .onConflictDoNothing({ target: marks.id });
  for (const { id, ...set } of content.sheetSets)
    await db
      .insert(sheetSets)
      .values({ ...set, id: isCopy || id === undefined ? randomUUID() : id, drawingId })
      .onConflictDoNothing({ target: sheetSets.id });
  return count;
}
