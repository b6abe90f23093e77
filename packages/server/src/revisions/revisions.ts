import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { and, desc, eq, inArray } from 'drizzle-orm';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import type { Database } from '../db/database.ts';
import { drawings, layers, revisions, type jobs } from '../db/schema.ts';
import type { ImportResult } from '../jobs/import-messages.ts';
import { Problem } from '../problem.ts';
import type { DataFolder } from '../storage/data-folder.ts';

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];
export type RevisionRow = typeof revisions.$inferSelect;

/** The imports of a drawing whose content is kept. */
export class Revisions {
  constructor(
    private readonly db: Database,
    private readonly folder: DataFolder,
  ) {}

  /** Newest first. */
  async of(drawingId: string): Promise<RevisionRow[]> {
    const rows = await this.#rows(drawingId);
    return rows.filter(({ number }) => existsSync(this.folder.revision(drawingId, number)));
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
    if (before && before.revision > 0 && existsSync(this.folder.revision(drawingId, before.revision))) {
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

  /** Removes all but the newest. */
  async keepLatest(drawingId: string, count: number): Promise<void> {
    const rows = await this.#rows(drawingId);
    for (const { number } of rows.slice(count)) await this.remove(drawingId, number);
  }

  async remove(drawingId: string, number: number): Promise<void> {
    await this.db.delete(revisions).where(and(eq(revisions.drawingId, drawingId), inArray(revisions.number, [number])));
    await rm(this.folder.revision(drawingId, number), { recursive: true, force: true });
  }

  async rename(drawingId: string, number: number, name: string): Promise<void> {
    await this.db
      .update(revisions)
      .set({ name })
      .where(and(eq(revisions.drawingId, drawingId), eq(revisions.number, number)));
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
