import { randomUUID } from 'node:crypto';
import { rm, stat } from 'node:fs/promises';
import { eq, sql } from 'drizzle-orm';
import { hasEnded, type JobDto, type JobState } from '@gull-pane/protocol/jobs';
import type { Database, Transaction } from '../db/database.ts';
import { isLostConnection, whileConnectionReturns } from '../db/lost-connection.ts';
import { drawings, layers, texts } from '../db/schema.ts';
import type { Signals } from '../db/signals.ts';
import { Problem } from '../problem.ts';
import type { RemovedContents } from '../revisions/removed-contents.ts';
import { Revisions } from '../revisions/revisions.ts';
import type { Contents } from '../storage/contents.ts';
import type { ImportProgress, ImportResult, ReadLimits } from './import-messages.ts';
import { ImportProcesses } from './import-processes.ts';
import { JobListeners } from './job-listeners.ts';
import { JobTable, SILENT_S, toDto, type JobEnd, type JobRow, type Lane } from './job-table.ts';
import { runImport, type RunLimits } from './run-import.ts';

/** Number of small files imported in parallel, so that one slow file doesn't block the others. */
const SMALL_PARALLEL = 2;
/** Workers are notified when a job is queued; how often they look in case a notification was lost, ms. */
const LOOK_FOR_JOBS_EVERY_MS = 5_000;
/** How often a server sends a heartbeat with the progress of a job, ms. */
const BEAT_EVERY_MS = 1_000;
/** A file is refused after its server has died this many times. */
const MOST_ATTEMPTS = 5;
/** How long a result is tried to be written while the database can't be reached, s: less than until another takes the job over. */
const LONGEST_WAIT_S = SILENT_S - 3;
/** How long a cancel waits for the server that runs the job, ms. */
const LONGEST_CANCEL_MS = (SILENT_S + 10) * 1_000;
/** A file without a job is one that is being queued for so long, ms. */
const FILE_BEFORE_JOB_MS = 3600 * 1000;
/** Layers that go into one statement. */
const LAYERS_PER_INSERT = 500;
/** Texts that go into one statement: putting it together holds up the thread that answers requests. */
const TEXTS_PER_INSERT = 2000;

/** What one import may take. */
export type ImportLimits = ReadLimits & RunLimits;

export interface ImportSettings {
  /** Large files at the same time. */
  readonly parallel: number;
  readonly limits: ImportLimits;
  /** So many imports of a drawing keep their content, the current one included. */
  readonly keptRevisions: number;
  /** Whether this server runs jobs itself. */
  readonly isWorker: boolean;
}

/** What jobs work with. */
export interface JobSurroundings {
  readonly db: Database;
  readonly signals: Signals;
  readonly contents: Contents;
  readonly removed: RemovedContents;
  /** Names this server among those of its database, over all its starts. */
  readonly serverId: string;
}

interface Running {
  readonly job: JobDto;
  readonly abort: AbortController;
}

/**
 * Imports as jobs: queued in the database, one process each, on any server that works on them; with progress that can be listened
 * to anywhere, cancelled at any moment, taken over when a server was killed in between. New content replaces the old only
 * once it is whole.
 */
export class ImportJobs {
  readonly #db: Database;
  readonly #table: JobTable;
  readonly #revisions: Revisions;
  readonly #listeners: JobListeners;
  readonly #running = new Map<string, Running>();
  readonly #formats = new Map<string, string>();
  readonly #processes: ImportProcesses;
  readonly #wakers = new Set<() => void>();
  readonly #loops: Promise<void>[] = [];
  #stopListening: () => void = () => undefined;
  #isStopped = false;

  constructor(
    private readonly own: JobSurroundings,
    private readonly settings: ImportSettings,
  ) {
    this.#db = own.db;
    this.#table = new JobTable(own.db, own.serverId);
    this.#revisions = new Revisions(own.db, own.contents, own.removed);
    this.#listeners = new JobListeners(this.#table, (id) => this.#running.has(id));
    this.#processes = new ImportProcesses(settings.limits.maxMemoryMb);
  }

  /** Called when a drawing has got its content, or another one. */
  onImported: (drawingId: string) => void = () => undefined;

  /** Called when a job of this server has ended. @param format of its file; `unknown` if it wasn't looked at */
  onEnded: (state: JobState, format: string) => void = () => undefined;

  /** Whether this server does what it is there for: jobs, if it works on them. */
  get isWorking(): boolean {
    return !this.#isStopped && (this.#loops.length > 0 || !this.settings.isWorker);
  }

  /** How many jobs wait, and how many run, on all servers. */
  counts(): Promise<{ readonly queued: number; readonly running: number }> {
    return this.#table.counts();
  }

  /** Starts working, first on what this server left behind when it was killed. */
  async start(): Promise<void> {
    await this.#table.giveBackAll();
    this.#stopListening = this.own.signals.listen('jobs', () => this.#wake());
    if (!this.settings.isWorker) return;
    for (let k = 0; k < SMALL_PARALLEL; k++) this.#loops.push(this.#loop('small'));
    for (let k = 0; k < this.settings.parallel; k++) this.#loops.push(this.#loop('large'));
  }

  /** Stops working; what runs is taken up by another server, or at the next start. */
  async stop(): Promise<void> {
    this.#isStopped = true;
    this.#stopListening();
    this.#wake();
    for (const { abort } of this.#running.values()) abort.abort(new ServerStops());
    await Promise.all(this.#loops);
    this.#listeners.stop();
    await this.#processes.stop();
  }

  /**
   * Queues an import of a file that is kept as the source of the job.
   * @param fileName without folders and ending
   * @param prepare done together with it, or not at all, such as adding the drawing
   * @throws Problem if the drawing is being imported already, or the job is known
   */
  async queue(
    drawingId: string,
    jobId: string,
    bytesTotal: number,
    fileName = '',
    prepare: (tx: Transaction) => Promise<void> = () => Promise.resolve(),
  ): Promise<void> {
    await this.#db.transaction(async (tx) => {
      await prepare(tx);
      if (!(await this.#table.add({ id: jobId, drawingId, bytesTotal, fileName }, tx)))
        throw new Problem('import-running');
    });
    this.own.signals.send('jobs');
  }

  newId(): string {
    return randomUUID();
  }

  async find(jobId: string): Promise<JobDto> {
    const running = this.#running.get(jobId);
    if (running) return running.job;
    const row = await this.#table.find(jobId);
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
    const { contents } = this.own;
    const outFolder = await contents.draft(drawingId, this.newId());
    const { limits } = this.settings;
    const order = { sourcePath, outFolder, tileAddressPrefix: `r${number}/`, limits };
    const listener = { onProgress: () => undefined, onFormat: () => undefined };
    const result = await runImport(this.#processes, order, listener, new AbortController().signal, limits);
    await contents.publish(outFolder, sourcePath, drawingId, number);
    const { size } = await stat(sourcePath);
    await this.#revisions.addFormer({ ...former, sourceBytes: size }, result);
  }

  /** Calls back at every change of a job, on whichever server it runs, until the returned function is called. */
  listen(jobId: string, take: (job: JobDto) => void): () => void {
    return this.#listeners.listen(jobId, take);
  }

  async cancel(jobId: string): Promise<JobDto> {
    const job = await this.find(jobId);
    if (hasEnded(job.state)) throw new Problem('job-ended');
    const unattended = await this.#table.cancelUnattended(jobId);
    if (unattended) {
      await this.#afterEnd(unattended);
      return toDto(unattended);
    }
    return new Promise((resolve, reject) => {
      const stop = this.listen(jobId, (changed) => {
        if (!hasEnded(changed.state)) return;
        clearTimeout(timer);
        stop();
        resolve(changed);
      });
      const timer = setTimeout(() => {
        stop();
        reject(new Problem('not-ready', { detail: 'The server that runs the import doesn’t answer; try again.' }));
      }, LONGEST_CANCEL_MS);
      this.#running.get(jobId)?.abort.abort(new Cancelled());
      this.#table.requestCancel(jobId).then(() => this.own.signals.send('jobs'), reject);
    });
  }

  /** Removes files that were sent for jobs that have ended, where a server was killed before it could do so. */
  async tidy(): Promise<void> {
    for await (const { jobId, changedAtMs } of this.own.contents.sources()) {
      // a job is added after its file is there
      if (Date.now() - changedAtMs < FILE_BEFORE_JOB_MS) continue;
      const row = await this.#table.find(jobId);
      if (!row || hasEnded(row.state)) await this.own.contents.removeSource(jobId);
    }
  }

  /** Stops whatever is being done for a drawing that is about to be deleted. */
  async cancelAllOf(drawingId: string): Promise<void> {
    for (const { id } of await this.#table.openOf(drawingId)) await this.cancel(id).catch(() => undefined);
  }

  async #loop(lane: Lane): Promise<void> {
    while (!this.#isStopped) {
      const called = this.#nextCall(); // before the table is read, so that no notification is lost in between
      const row = await this.#table.claim(lane).catch((error: unknown) => {
        if (!isLostConnection(error)) console.error('jobs:', error);
        return null;
      });
      if (row) await this.#work(row).catch((error: unknown) => console.error('jobs:', error));
      else await called;
    }
  }

  #nextCall(): Promise<void> {
    return new Promise((resolve) => {
      const end = (): void => {
        clearTimeout(timer);
        this.#wakers.delete(end);
        resolve();
      };
      const timer = setTimeout(end, LOOK_FOR_JOBS_EVERY_MS);
      this.#wakers.add(end);
    });
  }

  #wake(): void {
    for (const waker of this.#wakers) waker();
    if (!this.#isStopped) void this.#listeners.look();
  }

  async #work(row: JobRow): Promise<void> {
    const abort = new AbortController();
    const job: JobDto = toDto(row);
    this.#running.set(row.id, { job, abort }); // before anything else is awaited: from here on it can be cancelled
    if (row.isCancelRequested) abort.abort(new Cancelled());
    if (this.#isStopped) abort.abort(new ServerStops());
    this.#listeners.tell(job);
    const beats = this.#beat(job, abort);
    const end = await this.#import(row, job, abort.signal).catch((error: unknown) => this.#endAfter(error));
    clearInterval(beats);
    const ended = await this.#writeDown(row.id, end).finally(() => this.#running.delete(row.id));
    if (ended) await this.#afterEnd(ended);
    if (ended?.state === 'done') this.onImported(row.drawingId);
  }

  /** Sends heartbeats with the progress; the answers say whether the job has to stop. */
  #beat(job: JobDto, abort: AbortController): NodeJS.Timeout {
    let heardAtMs = performance.now();
    return setInterval(() => {
      if (performance.now() - heardAtMs > SILENT_S * 1000) abort.abort(new TakenOver());
      this.#table.beat(job.id, job.progress).then(
        (beat) => {
          heardAtMs = performance.now();
          if (beat === 'cancel') abort.abort(new Cancelled());
          else if (beat === 'lost') abort.abort(new TakenOver());
        },
        (error: unknown) => {
          // otherwise the database is away for a moment
          if (!isLostConnection(error)) console.error('jobs:', error);
        },
      );
    }, BEAT_EVERY_MS);
  }

  async #import(row: JobRow, job: JobDto, signal: AbortSignal): Promise<JobEnd> {
    const { contents, removed } = this.own;
    const { limits, keptRevisions } = this.settings;
    if (row.attempts > MOST_ATTEMPTS)
      throw new Problem('import-failed', {
        detail: `The server ended unexpectedly ${MOST_ATTEMPTS} times while it read this file.`,
      });
    const { drawingId } = row;
    const [drawing] = await whileConnectionReturns(LONGEST_WAIT_S, () =>
      this.#db.select({ revision: drawings.revision }).from(drawings).where(eq(drawings.id, drawingId)),
    );
    if (!drawing) throw new TakenOver(); // deleted, and the job with it
    const revision = Math.abs(drawing.revision) + 1;
    const outFolder = await contents.draft(drawingId, row.id);
    try {
      const sourcePath = await contents.source(row.id);
      const order = { sourcePath, outFolder, tileAddressPrefix: `r${revision}/`, limits };
      const onProgress = (progress: ImportProgress): void => {
        job.progress = { ...job.progress, ...progress };
        this.#listeners.tell(job);
      };
      const onFormat = (format: string): void => void this.#formats.set(row.id, format);
      const result = await runImport(this.#processes, order, { onProgress, onFormat }, signal, limits);
      job.progress = { ...job.progress, stage: 'saving' };
      this.#listeners.tell(job);
      signal.throwIfAborted();
      if ((await this.#table.beat(row.id, job.progress)) === 'lost') throw new TakenOver();
      await contents.publish(outFolder, sourcePath, drawingId, revision, signal);
      signal.throwIfAborted();
      const end: JobEnd = { state: 'done', error: null, objects: job.progress.objects };
      await whileConnectionReturns(LONGEST_WAIT_S, () =>
        this.#db.transaction(async (tx) => {
          // first, so that nothing is written for a job that another server has taken over
          if (!(await this.#table.end(row.id, end, tx))) {
            if ((await this.#table.find(row.id, tx))?.state === 'done') return; // written, though the answer was lost
            throw new TakenOver();
          }
          await this.#replaceContent(tx, row, revision, result);
          // in the same transaction: once the job is done, the list of revisions is right
          await this.#revisions.keepLatest(tx, drawingId, keptRevisions);
        }),
      );
      await removed.sweep().catch((error: unknown) => console.error('revisions:', error));
      return end;
    } finally {
      await rm(outFolder, { recursive: true, force: true });
      await contents.releaseSource(row.id);
    }
  }

  /** What becomes of a job that failed so. */
  #endAfter(error: unknown): JobEnd | 'given back' | 'lost' {
    if (error instanceof ServerStops) return 'given back';
    if (error instanceof TakenOver) return 'lost';
    if (error instanceof Cancelled) return { state: 'cancelled', error: null };
    if (isLostConnection(error)) return 'lost'; // its heartbeats have stopped: it will be taken over
    if (!(error instanceof Problem)) console.error('import:', error);
    const problem = error instanceof Problem ? error : new Problem('import-failed', { detail: String(error) });
    return { state: 'failed', error: problem.details };
  }

  /** Writes down what has become of a job. @returns the job if it has ended and is this server's; null otherwise */
  async #writeDown(id: string, end: JobEnd | 'given back' | 'lost'): Promise<JobRow | null> {
    if (end === 'lost') return null;
    if (end === 'given back') {
      await this.#table.giveBack(id);
      return null;
    }
    return whileConnectionReturns(LONGEST_WAIT_S, () => this.#endOf(id, end));
  }

  /** Writes an end down, unless that was done with the content. @returns null if the job isn't this server's any more */
  async #endOf(id: string, end: JobEnd): Promise<JobRow | null> {
    if (end.state === 'done') return this.#table.find(id);
    const objects = this.#running.get(id)?.job.progress.objects;
    const whole = { ...end, ...(objects === undefined ? {} : { objects }) };
    return this.#db.transaction((tx) => this.#table.end(id, whole, tx));
  }

  async #replaceContent(tx: Transaction, job: JobRow, revision: number, result: ImportResult): Promise<void> {
    const { drawingId } = job;
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
  }

  /** Tells of an end that is written down, and removes the file that was sent. */
  async #afterEnd(row: JobRow): Promise<void> {
    const format = this.#formats.get(row.id) ?? 'unknown';
    this.#formats.delete(row.id);
    await this.own.contents
      .removeFilesOf(row.drawingId, row.id)
      .catch((error: unknown) => console.error('The file that was sent is still there:', error));
    this.onEnded(row.state, format);
    this.#listeners.tell(toDto(row));
    this.own.signals.send('jobs');
  }
}

/** A database's text holds neither zeros nor halves of characters. */
const storable = (text: string): string => Buffer.from(text.replaceAll('\0', '')).toString();

class Cancelled extends Error {}
class ServerStops extends Error {}
/** Another server runs the job now, or its drawing was deleted. */
class TakenOver extends Error {}
