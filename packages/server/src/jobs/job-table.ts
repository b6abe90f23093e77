import { and, eq, inArray, lt, or, sql, isNull, type SQL } from 'drizzle-orm';
import type { JobDto, JobProgressDto, JobState } from '@gull-pane/protocol/jobs';
import type { ProblemDetails } from '@gull-pane/protocol/problems';
import type { Database, Transaction } from '../db/database.ts';
import { drawings, jobs } from '../db/schema.ts';

export type JobRow = typeof jobs.$inferSelect;

/** Small files have a lane of their own, so that they never wait behind large ones. */
export const lanes = ['small', 'large'] as const;
export type Lane = (typeof lanes)[number];

/** What is smaller than this takes the lane for small files, bytes. */
const SMALL_BELOW_BYTES = 1 << 20;
/** A server whose last heartbeat for a job is older than this counts as dead, and another takes the job over, s. */
export const SILENT_S = 15;
const open: readonly JobState[] = ['queued', 'running'];

const inLane = (lane: Lane): SQL =>
  lane === 'small' ? sql`${jobs.bytesTotal} < ${SMALL_BELOW_BYTES}` : sql`${jobs.bytesTotal} >= ${SMALL_BELOW_BYTES}`;
// times are the database's own: servers' clocks differ
const isSilent = or(isNull(jobs.heartbeatAt), lt(jobs.heartbeatAt, sql`now() - make_interval(secs => ${SILENT_S})`))!;

/** The jobs of all servers. The table is the only truth, and a job is claimed with one statement, so that no two servers get the same. */
export class JobTable {
  /** @param worker of this server */
  constructor(
    private readonly db: Database,
    private readonly worker: string,
  ) {}

  /** @returns false if the drawing has a job that hasn't ended */
  async add(
    job: Pick<JobRow, 'id' | 'drawingId' | 'bytesTotal' | 'fileName'>,
    tx: Database | Transaction = this.db,
  ): Promise<boolean> {
    const added = await tx
      .insert(jobs)
      .values({ ...job, state: 'queued' })
      .onConflictDoNothing()
      .returning();
    return added.length > 0;
  }

  async find(id: string, tx: Database | Transaction = this.db): Promise<JobRow | null> {
    const [row] = await tx.select().from(jobs).where(eq(jobs.id, id));
    return row ?? null;
  }

  async all(ids: readonly string[]): Promise<JobRow[]> {
    if (ids.length === 0) return [];
    return this.db
      .select()
      .from(jobs)
      .where(inArray(jobs.id, [...ids]));
  }

  async openOf(drawingId: string): Promise<JobRow[]> {
    return this.db
      .select()
      .from(jobs)
      .where(and(eq(jobs.drawingId, drawingId), inArray(jobs.state, [...open])));
  }

  /** @returns the oldest job that waits, or whose server has died, which is this server's now; null if there is none */
  async claim(lane: Lane): Promise<JobRow | null> {
    const next = this.db
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(or(eq(jobs.state, 'queued'), and(eq(jobs.state, 'running'), isSilent)), inLane(lane)))
      .orderBy(jobs.createdAt)
      .limit(1)
      .for('update', { skipLocked: true });
    const [row] = await this.db
      .update(jobs)
      .set({
        state: 'running',
        worker: this.worker,
        heartbeatAt: sql`now()`,
        attempts: sql`${jobs.attempts} + 1`,
        stage: 'reading',
        bytesRead: 0,
        objects: 0,
        tiles: 0,
        tilesTotal: 0,
      })
      .where(inArray(jobs.id, next))
      .returning();
    return row ?? null;
  }

  /** The heartbeat of a job that this server runs, with its progress. */
  async beat(id: string, { stage, bytesRead, objects, tiles, tilesTotal }: JobProgressDto): Promise<Beat> {
    const [row] = await this.db
      .update(jobs)
      .set({ heartbeatAt: sql`now()`, stage, bytesRead, objects, tiles, tilesTotal })
      .where(this.#own(id))
      .returning({ isCancelRequested: jobs.isCancelRequested });
    if (!row) return 'lost';
    return row.isCancelRequested ? 'cancel' : 'go on';
  }

  /** Asks the server that runs a job to stop. */
  async requestCancel(id: string): Promise<void> {
    await this.db.update(jobs).set({ isCancelRequested: true }).where(eq(jobs.id, id));
  }

  /** @returns the job, ended, if nobody runs it; null otherwise */
  async cancelUnattended(id: string): Promise<JobRow | null> {
    const isUnattended = or(eq(jobs.state, 'queued'), and(eq(jobs.state, 'running'), isSilent));
    return this.db.transaction(async (tx) => {
      const [row] = await tx
        .update(jobs)
        .set({ state: 'cancelled', endedAt: sql`now()` })
        .where(and(eq(jobs.id, id), isUnattended))
        .returning();
      return row ? this.#withoutContent(row, tx) : null;
    });
  }

  /**
   * Writes down how a job of this server ended.
   * @returns null if it isn't this server's any more
   */
  async end(id: string, { state, error, objects }: JobEnd, tx: Transaction): Promise<JobRow | null> {
    const [row] = await tx
      .update(jobs)
      .set({
        state,
        error,
        endedAt: sql`now()`,
        ...(objects === undefined ? {} : { objects }),
        ...(state === 'done' ? { bytesRead: sql`bytes_total`, stage: 'saving' } : {}),
      })
      .where(this.#own(id))
      .returning();
    return row && state !== 'done' ? this.#withoutContent(row, tx) : (row ?? null);
  }

  /** Puts a job of this server back: it stops, another may take it. It doesn't count as an attempt. */
  async giveBack(id: string): Promise<void> {
    await this.db
      .update(jobs)
      .set({ state: 'queued', heartbeatAt: null, attempts: sql`greatest(${jobs.attempts} - 1, 0)` })
      .where(this.#own(id));
  }

  /** Puts back what this server ran before it was killed. */
  async giveBackAll(): Promise<void> {
    await this.db
      .update(jobs)
      .set({ state: 'queued', heartbeatAt: null })
      .where(and(eq(jobs.worker, this.worker), eq(jobs.state, 'running')));
  }

  /** How many jobs wait, and how many run, on all servers. */
  async counts(): Promise<{ readonly queued: number; readonly running: number }> {
    const rows = await this.db
      .select({ state: jobs.state, count: sql<number>`count(*)::int` })
      .from(jobs)
      .where(inArray(jobs.state, [...open]))
      .groupBy(jobs.state);
    const of = (state: JobState): number => rows.find((row) => row.state === state)?.count ?? 0;
    return { queued: of('queued'), running: of('running') };
  }

  /** A drawing that never had content has failed; one that had keeps it. */
  async #withoutContent(row: JobRow, tx: Transaction): Promise<JobRow> {
    await tx
      .update(drawings)
      .set({ status: sql`case when revision > 0 then 'ready' else 'failed' end` })
      .where(eq(drawings.id, row.drawingId));
    return row;
  }

  #own(id: string): SQL {
    return and(eq(jobs.id, id), eq(jobs.worker, this.worker), eq(jobs.state, 'running'))!;
  }
}

/** What a server that runs a job has to do next: `lost` if another has taken it over. */
export type Beat = 'go on' | 'cancel' | 'lost';

export interface JobEnd {
  readonly state: Extract<JobState, 'done' | 'failed' | 'cancelled'>;
  readonly error: ProblemDetails | null;
  readonly objects?: number;
}

export function toDto(row: JobRow): JobDto {
  const { id, drawingId, state, stage, bytesRead, bytesTotal, objects, tiles, tilesTotal, error } = row;
  const progress = { stage, bytesRead, bytesTotal, objects, tiles, tilesTotal };
  return { id, drawingId, state, progress, ...(error ? { error } : {}) };
}
