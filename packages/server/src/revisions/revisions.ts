import { and, desc, eq } from 'drizzle-orm';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import type { Database, Transaction } from '../db/database.ts';
import { drawings, layers, revisions, type jobs } from '../db/schema.ts';
import type { ImportResult } from '../jobs/import-messages.ts';
import { Problem } from '../problem.ts';
import type { Contents } from '../storage/contents.ts';
import type { RemovedContents } from './removed-contents.ts';

export type RevisionRow = typeof revisions.$inferSelect;

/** The imports of a drawing whose content is kept. */
export class Revisions {
  constructor(
    private readonly db: Database,
    private readonly contents: Contents,
    private readonly removed: RemovedContents,
  ) {}

  /** Newest first. */
  async of(drawingId: string): Promise<RevisionRow[]> {
    const rows = await this.#rows(drawingId);
    const isKept = await Promise.all(rows.map(({ number }) => this.contents.has(drawingId, number)));
    return rows.filter((_row, k) => isKept[k]);
  }

  /** @throws Problem revision-not-found */
  async find(drawingId: string, number: number): Promise<RevisionRow> {
    const found = (await this.of(drawingId)).find((row) => row.number === number);
    if (!found) throw new Problem('revision-not-found', { detail: `The drawing keeps no revision ${number}.` });
    return found;
  }

  /** Takes down a new revision, and the one before it if it came in when revisions weren't kept yet. */
  async add(
    tx: Transaction,
    { drawingId, bytesTotal, fileName }: typeof jobs.$inferSelect,
    number: number,
    result: ImportResult,
  ): Promise<void> {
    const [before] = await tx.select().from(drawings).where(eq(drawings.id, drawingId));
    if (before && before.revision > 0 && (await this.contents.has(drawingId, before.revision))) {
      const rows = await tx.select().from(layers).where(eq(layers.drawingId, drawingId)).orderBy(layers.number);
      await tx
        .insert(revisions)
        .values({
          drawingId,
          number: before.revision,
          sourceBytes: before.sourceBytes,
          importedAt: before.updatedAt,
          kind: before.kind,
          unit: before.unit,
          counts: before.counts,
          extents: before.extents,
          sheets: before.sheets,
          layers: rows.map(({ number: id, name, colour, isOff, objects, segments, support }) => ({
            id,
            name,
            colour,
            isOff,
            objects,
            segments,
            support,
          })),
        })
        .onConflictDoNothing();
    }
    await tx
      .insert(revisions)
      .values({ drawingId, number, fileName, sourceBytes: bytesTotal, ...contentOf(result) })
      .onConflictDoNothing();
  }

  /** Takes down what a drawing was before its first import: the number must have been left free. */
  async addFormer(
    row: Pick<RevisionRow, 'drawingId' | 'number' | 'name' | 'sourceBytes' | 'importedAt'>,
    result: ImportResult,
  ): Promise<void> {
    await this.db
      .insert(revisions)
      .values({ ...row, ...contentOf(result) })
      .onConflictDoNothing();
  }

  /** Removes all but the newest; their files go with the next sweep. */
  async keepLatest(tx: Transaction, drawingId: string, count: number): Promise<void> {
    const rows = await tx
      .select({ number: revisions.number })
      .from(revisions)
      .where(eq(revisions.drawingId, drawingId))
      .orderBy(desc(revisions.number))
      .offset(count);
    for (const { number } of rows) await this.#remove(tx, drawingId, number);
  }

  async remove(drawingId: string, number: number): Promise<void> {
    await this.db.transaction((tx) => this.#remove(tx, drawingId, number));
    await this.removed.sweep();
  }

  async rename(drawingId: string, number: number, name: string): Promise<void> {
    await this.db
      .update(revisions)
      .set({ name })
      .where(and(eq(revisions.drawingId, drawingId), eq(revisions.number, number)));
  }

  async #remove(tx: Transaction, drawingId: string, number: number): Promise<void> {
    await tx.delete(revisions).where(and(eq(revisions.drawingId, drawingId), eq(revisions.number, number)));
    await this.removed.add(tx, drawingId, number);
  }

  #rows(drawingId: string): Promise<RevisionRow[]> {
    return this.db.select().from(revisions).where(eq(revisions.drawingId, drawingId)).orderBy(desc(revisions.number));
  }
}

const contentOf = ({ kind, unit, counts, extents, sheets, layers: own }: ImportResult) => ({
  kind,
  unit,
  counts,
  extents,
  sheets: [...sheets],
  layers: [...own],
});

export const toDto = (row: RevisionRow, current: number): RevisionDto => {
  const { number, name, fileName, sourceBytes, counts, importedAt } = row;
  return {
    number,
    name,
    fileName,
    sourceBytes,
    counts,
    importedAt: importedAt.toISOString(),
    isCurrent: number === current,
  };
};
