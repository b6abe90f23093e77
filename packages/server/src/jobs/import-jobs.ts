import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { copyFile, link, rm, stat } from 'node:fs/promises';
import { and, eq, inArray, sql } from 'drizzle-orm';
import PgBoss from 'pg-boss';
import { hasEnded, type JobDto, type JobState } from '@gull-pane/protocol/jobs';
import type { ProblemDetails } from '@gull-pane/protocol/problems';
import type { Database, OpenDatabase } from '../db/database.ts';
import { drawings, jobs, layers, texts } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { Revisions } from '../revisions/revisions.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import type { ImportProgress, ImportResult, ReadLimits } from './import-messages.ts';
import { ImportProcesses } from './import-processes.ts';
import { runImport, type RunLimits } from './run-import.ts';

/** Small files have a lane of their own, so that they never wait behind large ones. */
const LANES = { small: 'import-small', large: 'import' } as const;
type Lane = keyof typeof LANES;
/** What is smaller than this takes the lane for small files, bytes. */
const SMALL_BELOW_BYTES = 1 << 20;
/** Number of small files imported in parallel, so that one slow file doesn't block the others. */
const SMALL_PARALLEL = 2;
/** Workers are woken by what is queued; this is for the case that a call was missed, s. */
const LOOK_FOR_JOBS_EVERY_S = 5;
/** How often the progress of a running job is written down for the case of a crash, ms. */
const WRITE_PROGRESS_EVERY_MS = 2000;
/** Layers that go into one statement. */
const LAYERS_PER_INSERT = 500;
/** Texts that go into one statement: putting it together holds up the thread that answers requests. */
const TEXTS_PER_INSERT = 2000;

/** What one import may take. */
export type ImportLimits = ReadLimits & RunLimits;

type JobRow = typeof jobs.$inferSelect;

/**
 * Imports as jobs: queued in the database, one process each, with progress that can be listened to, cancelled at any
 * moment, taken up again when the server was killed in between. New content replaces the old only once it is whole.
 */
export class ImportJobs {
  readonly #db: Database;
  readonly #boss: PgBoss;
  readonly #revisions: Revisions;
  readonly #running = new Map<string, { job: JobDto; abort: AbortController }>();
  readonly #formats = new Map<string, string>();
  readonly #events = new EventEmitter().setMaxListeners(0);
  readonly #workers: Record<Lane, string[]> = { small: [], large: [] };
  readonly #processes: ImportProcesses;
  #isStopped = false;
  #begin: () => void = () => undefined;
  readonly #hasBegun = new Promise<void>((resolve) => (this.#begin = resolve));

  constructor(
    database: OpenDatabase,
    private readonly folder: DataFolder,
    private readonly parallel: number,
    private readonly limits: ImportLimits,
    /** So many imports of a drawing keep their content, the current one included. */
    private readonly keptRevisions: number,
  ) {
    this.#db = database.db;
    this.#revisions = new Revisions(database.db, folder);
    this.#processes = new ImportProcesses(limits.maxMemoryMb);
    this.#boss = new PgBoss({
      // the queue's own rounds go on for a moment after it was stopped: they are left waiting, nobody needs an answer
      db: {
        executeSql: (text, values) => (this.#isStopped ? new Promise(() => undefined) : database.query(text, values)),
      },
    });
    this.#boss.on('error', (error) => console.error(`job queue: ${error.message}`));
  }

  /** Called when a drawing has got its content, or another one. */
  onImported: (drawingId: string) => void = () => undefined;

  /** Called when a job has ended. @param format of its file; `unknown` if it wasn't looked at */
  onEnded: (state: JobState, format: string) => void = () => undefined;

  /** Whether jobs are worked on. */
  get isWorking(): boolean {
    return this.#workers.large.length > 0 && !this.#isStopped;
  }

  /** How many jobs wait, and how many run. */
  async counts(): Promise<{ readonly queued: number; readonly running: number }> {
    const rows = await this.#db
      .select({ state: jobs.state, count: sql<number>`count(*)::int` })
      .from(jobs)
      .where(inArray(jobs.state, ['queued', 'running']))
      .groupBy(jobs.state);
    const of = (state: JobState): number => rows.find((row) => row.state === state)?.count ?? 0;
    return { queued: of('queued'), running: of('running') };
  }

  /** Starts working, first on what a killed server left behind. */
  async start(): Promise<void> {
    await this.#boss.start();
    // before anybody works: what runs from here on was begun by this server
    const left = await this.#db
      .update(jobs)
      .set({ state: 'queued', bytesRead: 0, objects: 0 })
      .where(inArray(jobs.state, ['queued', 'running']))
      .returning();
    await this.#openLane('small', SMALL_PARALLEL);
    await this.#openLane('large', this.parallel);
    for (const { id, bytesTotal } of left.sort((a, b) => Number(a.createdAt) - Number(b.createdAt)))
      await this.#enqueue(id, bytesTotal);
    this.#begin();
  }

  /** Stops working; what runs is taken up at the next start. */
  async stop(): Promise<void> {
    await this.#boss.stop({ graceful: false, wait: true, close: false });
    this.#isStopped = true;
    for (const { abort } of this.#running.values()) abort.abort(new ServerStops());
    while (this.#running.size > 0) await new Promise((resolve) => setTimeout(resolve, 20));
    await this.#processes.stop();
  }

  /**
   * Queues an import of a file that already lies at `folder.source(jobId)`.
   * @param fileName without folders and ending
   * @throws Problem if the drawing is being imported already
   */
  async queue(drawingId: string, jobId: string, bytesTotal: number, fileName = ''): Promise<void> {
    await this.#hasBegun; // requests come in earlier
    const [added] = await this.#db
      .insert(jobs)
      .values({ id: jobId, drawingId, state: 'queued', bytesTotal, fileName })
      .onConflictDoNothing()
      .returning();
    if (!added) throw new Problem('import-running');
    await this.#enqueue(jobId, bytesTotal);
  }

  newId(): string {
    return randomUUID();
  }

  async find(jobId: string): Promise<JobDto> {
    const running = this.#running.get(jobId);
    if (running) return running.job;
    const [row] = await this.#db.select().from(jobs).where(eq(jobs.id, jobId));
    if (!row) throw new Problem('job-not-found');
    return toDto(row);
  }

  /**
   * Imports what a drawing was before its first import. It isn't queued: it may be begun again at any time.
   * @param former `number` must lie before those of its imports
   * @throws Problem if it can't be read; an error if the server stops
   */
  async importFormer(
    former: { readonly drawingId: string; readonly number: number; readonly name: string; readonly importedAt: Date },
    sourcePath: string,
  ): Promise<void> {
    const { drawingId, number } = former;
    const outFolder = this.folder.revision(drawingId, number);
    await rm(outFolder, { recursive: true, force: true });
    const order = { sourcePath, outFolder, tileAddressPrefix: `r${number}/`, limits: this.limits };
    const listener = { onProgress: () => undefined, onFormat: () => undefined };
    const result = await runImport(this.#processes, order, listener, new AbortController().signal, this.limits);
    await keepFile(sourcePath, this.folder.keptSource(drawingId, number));
    const { size } = await stat(sourcePath);
    await this.#revisions.addFormer({ ...former, sourceBytes: size }, result);
  }

  /** Calls back at every change of the job until the returned function is called. */
  listen(jobId: string, take: (job: JobDto) => void): () => void {
    this.#events.on(jobId, take);
    return () => this.#events.off(jobId, take);
  }

  async cancel(jobId: string): Promise<JobDto> {
    const job = await this.find(jobId);
    if (hasEnded(job.state)) throw new Problem('job-ended');
    const running = this.#running.get(jobId);
    if (running) {
      running.abort.abort(new Cancelled());
      return new Promise((resolve) => {
        const stop = this.listen(jobId, (changed) => {
          if (!hasEnded(changed.state)) return;
          stop();
          resolve(changed);
        });
      });
    }
    const [waiting] = await this.#db
      .update(jobs)
      .set({ state: 'cancelled' })
      .where(and(eq(jobs.id, jobId), eq(jobs.state, 'queued')))
      .returning();
    if (!waiting) {
      if (this.#running.has(jobId)) return this.cancel(jobId); // it has begun in the meantime
      throw new Problem('job-ended');
    }
    await this.#end(jobId, job.drawingId, 'cancelled', null);
    return this.find(jobId);
  }

  /** Stops whatever is being done for a drawing that is about to be deleted. */
  async cancelAllOf(drawingId: string): Promise<void> {
    const open = await this.#db
      .select({ id: jobs.id })
      .from(jobs)
      .where(and(eq(jobs.drawingId, drawingId), inArray(jobs.state, ['queued', 'running'])));
    for (const { id } of open) await this.cancel(id).catch(() => undefined);
  }

  async #openLane(lane: Lane, parallel: number): Promise<void> {
    await this.#boss.createQueue(LANES[lane]);
    await this.#boss.purgeQueue(LANES[lane]);
    for (let i = 0; i < parallel; i++) {
      const worker = await this.#boss.work<{ jobId: string }>(
        LANES[lane],
        { pollingIntervalSeconds: LOOK_FOR_JOBS_EVERY_S, batchSize: 1 },
        async (batch) => {
          for (const { data } of batch) await this.#work(data.jobId);
          this.#wakeWorkers(lane); // so that the next job starts now, not at the next look
        },
      );
      this.#workers[lane].push(worker);
    }
  }

  async #enqueue(jobId: string, bytes: number): Promise<void> {
    const lane = bytes < SMALL_BELOW_BYTES ? 'small' : 'large';
    await this.#boss.send(LANES[lane], { jobId }, { retryLimit: 0, expireInHours: 12 });
    this.#wakeWorkers(lane);
  }

  #wakeWorkers(lane: Lane): void {
    for (const worker of this.#workers[lane]) this.#boss.notifyWorker(worker);
  }

  async #work(jobId: string): Promise<void> {
    const [row] = await this.#db
      .update(jobs)
      .set({ state: 'running' })
      .where(and(eq(jobs.id, jobId), eq(jobs.state, 'queued')))
      .returning();
    if (!row) return; // cancelled or deleted while it waited
    const abort = new AbortController();
    const job: JobDto = { ...toDto(row), state: 'running' };
    this.#running.set(jobId, { job, abort }); // before anything else is awaited: from here on it can be cancelled
    this.#tell(job);
    const [drawing] = await this.#db
      .select({ revision: drawings.revision })
      .from(drawings)
      .where(eq(drawings.id, row.drawingId));
    if (!drawing) {
      this.#running.delete(jobId);
      return;
    }
    const revision = drawing.revision + 1;
    const outFolder = this.folder.revision(row.drawingId, revision);
    let writtenAt = Date.now();
    try {
      await rm(outFolder, { recursive: true, force: true });
      const order = {
        sourcePath: this.folder.source(jobId),
        outFolder,
        tileAddressPrefix: `r${revision}/`,
        limits: this.limits,
      };
      const onProgress = (progress: ImportProgress): void => {
        const { bytesRead, objects } = progress;
        job.progress = { ...job.progress, ...progress };
        this.#tell(job);
        if (Date.now() - writtenAt < WRITE_PROGRESS_EVERY_MS) return;
        writtenAt = Date.now();
        void this.#db
          .update(jobs)
          .set({ bytesRead, objects })
          .where(eq(jobs.id, jobId))
          .catch(() => undefined);
      };
      const onFormat = (format: string): void => void this.#formats.set(jobId, format);
      const listener = { onProgress, onFormat };
      const result = await runImport(this.#processes, order, listener, abort.signal, this.limits);
      job.progress = { ...job.progress, stage: 'saving' };
      this.#tell(job);
      await keepFile(order.sourcePath, this.folder.keptSource(row.drawingId, revision));
      await this.#replaceContent(row, revision, result);
      // before the job is said to be done: who sees that sees what is kept; the content is there, whatever becomes of older ones
      await this.#revisions
        .keepLatest(row.drawingId, this.keptRevisions)
        .catch((error: unknown) => console.error('revisions:', error));
      await this.#end(jobId, row.drawingId, 'done', null);
      this.onImported(row.drawingId);
    } catch (error) {
      await rm(outFolder, { recursive: true, force: true });
      if (error instanceof ServerStops) this.#running.delete(jobId);
      else if (error instanceof Cancelled) await this.#end(jobId, row.drawingId, 'cancelled', null);
      else {
        if (!(error instanceof Problem)) console.error('import:', error);
        const problem = error instanceof Problem ? error : new Problem('import-failed', { detail: String(error) });
        await this.#end(jobId, row.drawingId, 'failed', problem.details);
      }
    }
  }

  async #replaceContent(job: JobRow, revision: number, result: ImportResult): Promise<void> {
    const { drawingId } = job;
    await this.#db.transaction(async (tx) => {
      await this.#revisions.add(tx, job, revision, result);
      await tx.delete(layers).where(eq(layers.drawingId, drawingId));
      await tx.delete(texts).where(eq(texts.drawingId, drawingId));
      for (let at = 0; at < result.layers.length; at += LAYERS_PER_INSERT) {
        const rows = result.layers.slice(at, at + LAYERS_PER_INSERT);
        await tx.insert(layers).values(rows.map(({ id, ...layer }) => ({ drawingId, number: id, ...layer })));
      }
      for (let at = 0; at < result.texts.length; at += TEXTS_PER_INSERT) {
        const rows = result.texts
          .slice(at, at + TEXTS_PER_INSERT)
          .map((text) => ({ ...text, content: storable(text.content) }));
        // one value for all of them: a placeholder for each number takes five times as long
        await tx.execute(sql`
          insert into ${texts} (drawing_id, object_id, layer, content, x, y, size, angle_rad)
          select ${drawingId}::uuid, one.* from json_to_recordset(${JSON.stringify(rows)}::json) as one
            ("objectId" integer, layer integer, content text, x float8, y float8, size float8, "angleRad" float8)`);
      }
      await tx
        .update(drawings)
        .set({
          kind: result.kind,
          unit: result.unit,
          begun: result.begun ?? null,
          status: 'ready',
          revision,
          counts: result.counts,
          extents: result.extents,
          report: [...result.warnings],
          sheets: [...result.sheets],
          sourceBytes: job.bytesTotal,
          updatedAt: sql`now()`,
        })
        .where(eq(drawings.id, drawingId));
    });
  }

  /** Writes the end down, tells the listeners, and removes the file that was sent. */
  async #end(jobId: string, drawingId: string, state: JobState, error: ProblemDetails | null): Promise<void> {
    const progress = this.#running.get(jobId)?.job.progress;
    const [row] = await this.#db
      .update(jobs)
      .set({
        state,
        error,
        endedAt: sql`now()`,
        ...(state === 'done' ? { bytesRead: sql`bytes_total` } : {}),
        ...(progress ? { objects: progress.objects } : {}),
      })
      .where(eq(jobs.id, jobId))
      .returning();
    // a drawing that never had content has failed; one that had keeps it
    await this.#db
      .update(drawings)
      .set({ status: sql`case when revision > 0 then 'ready' else 'failed' end` })
      .where(eq(drawings.id, drawingId));
    this.#running.delete(jobId);
    await rm(this.folder.source(jobId), { force: true });
    const format = this.#formats.get(jobId) ?? 'unknown';
    this.#formats.delete(jobId);
    this.onEnded(state, format);
    if (row) this.#tell(toDto(row));
  }

  #tell(job: JobDto): void {
    this.#events.emit(job.id, { ...job, progress: { ...job.progress } });
  }
}

/** A database's text holds neither zeros nor halves of characters. */
const storable = (text: string): string => Buffer.from(text.replaceAll('\0', '')).toString();

/** A second name for a file; a copy where the file system has no such thing. */
async function keepFile(from: string, to: string): Promise<void> {
  await link(from, to).catch(() => copyFile(from, to));
}

class Cancelled extends Error {}
class ServerStops extends Error {}

function toDto(row: JobRow): JobDto {
  const { id, drawingId, state, bytesRead, bytesTotal, objects, error } = row;
  // the database stores only how much was read; stages and tiles are sent as events
  const stage = state === 'done' ? 'saving' : 'reading';
  const progress = { stage, bytesRead, bytesTotal, objects, tiles: 0, tilesTotal: 0 } as const;
  return { id, drawingId, state, progress, ...(error ? { error } : {}) };
}
