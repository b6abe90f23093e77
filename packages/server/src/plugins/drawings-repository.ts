import { and, desc, eq, sql, type SQL } from 'drizzle-orm';
import type { CameraDto } from '@gull-pane/protocol/camera';
import {
  addressOfRevision,
  idOfAddress,
  isFormer,
  type CountsDto,
  type DrawingDto,
  type LayerDto,
} from '@gull-pane/protocol/drawings';
import type { Database } from '../db/database.ts';
import { drawings, jobs, layers, revisions } from '../db/schema.ts';
import { Problem } from '../problem.ts';

const noCounts: CountsDto = { objects: 0, segments: 0, triangles: 0, texts: 0, layers: 0 };

/** Reads and writes drawings as the protocol tells them. */
export class DrawingsRepository {
  constructor(private readonly db: Database) {}

  async list(): Promise<DrawingDto[]> {
    return this.#select(sql`true`);
  }

  /** @throws Problem drawing-not-found */
  async find(id: string): Promise<DrawingDto> {
    const [drawing] = await this.#select(eq(drawings.id, id));
    if (!drawing) throw new Problem('drawing-not-found', { detail: `No drawing has the id ${id}.` });
    return drawing;
  }

  /**
   * A drawing as a revision of it is: under the address of that revision.
   * @throws Problem drawing-not-found, revision-not-found
   */
  async findRevision(id: string, number: number): Promise<DrawingDto> {
    const drawing = await this.find(id);
    if (number === drawing.revision) return drawing;
    const { name, fileName, kind, unit, counts, extents, sheets, sourceBytes } = await this.#revision(id, number);
    return {
      ...drawing,
      id: addressOfRevision(id, number),
      name: `${drawing.name}, ${name || fileName || `revision ${number}`}`,
      revision: number,
      warnings: [],
      kind,
      unit,
      counts,
      extents,
      sheets,
      sourceBytes,
    };
  }

  async #revision(id: string, number: number): Promise<typeof revisions.$inferSelect> {
    const [row] = await this.db
      .select()
      .from(revisions)
      .where(and(eq(revisions.drawingId, id), eq(revisions.number, number)));
    if (!row) throw new Problem('revision-not-found', { detail: `The drawing keeps no revision ${number}.` });
    return row;
  }

  /** @param formerRevisions how many numbers are left free for what it was before its first import */
  async add(id: string, name: string, sourceBytes: number, formerRevisions = 0): Promise<void> {
    const revision = -formerRevisions;
    await this.db
      .insert(drawings)
      .values({ id, name, sourceBytes, revision, status: 'importing', counts: noCounts, report: [] });
  }

  async rename(id: string, name: string): Promise<void> {
    await this.db
      .update(drawings)
      .set({ name, updatedAt: sql`now()` })
      .where(eq(drawings.id, id));
  }

  async setHome(id: string, home: CameraDto): Promise<void> {
    await this.db.update(drawings).set({ home }).where(eq(drawings.id, id));
  }

  async markImporting(id: string): Promise<void> {
    await this.db.update(drawings).set({ status: 'importing' }).where(eq(drawings.id, id));
  }

  async remove(id: string): Promise<void> {
    await this.db.delete(drawings).where(eq(drawings.id, id));
  }

  async layersOf({ id: address, revision }: Pick<DrawingDto, 'id' | 'revision'>): Promise<LayerDto[]> {
    const id = idOfAddress(address);
    if (isFormer(address)) return (await this.#revision(id, revision)).layers;
    const rows = await this.db.select().from(layers).where(eq(layers.drawingId, id)).orderBy(layers.number);
    return rows.map(({ number, name, colour, isOff, objects, segments, support }) => ({
      id: number,
      name,
      colour,
      isOff,
      objects,
      segments,
      support,
    }));
  }

  async #select(where: SQL): Promise<DrawingDto[]> {
    const latest = this.db
      .selectDistinctOn([jobs.drawingId], {
        drawingId: jobs.drawingId,
        id: jobs.id,
        state: jobs.state,
        error: jobs.error,
      })
      .from(jobs)
      .orderBy(jobs.drawingId, desc(jobs.createdAt))
      .as('latest');
    const rows = await this.db
      .select({ drawing: drawings, jobId: latest.id, jobState: latest.state, jobError: latest.error })
      .from(drawings)
      .leftJoin(latest, eq(latest.drawingId, drawings.id))
      .where(where)
      .orderBy(desc(drawings.createdAt));
    return rows.map(({ drawing, jobId, jobState, jobError }): DrawingDto => {
      const { id, name, kind, unit, status, counts, extents, report, sheets, revision, begun } = drawing;
      const { sourceBytes, home, createdAt, updatedAt } = drawing;
      const isOpen = jobState === 'queued' || jobState === 'running';
      return {
        id,
        name,
        kind,
        unit,
        status,
        counts,
        extents,
        warnings: report,
        sheets,
        revision: Math.max(revision, 0),
        sourceBytes,
        home,
        begun,
        createdAt: createdAt.toISOString(),
        updatedAt: updatedAt.toISOString(),
        jobId: isOpen ? jobId : null,
        isCancelled: jobState === 'cancelled',
        error: jobError ?? null,
      };
    });
  }
}
