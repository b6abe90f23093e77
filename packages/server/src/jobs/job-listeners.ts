import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import type { JobTable } from './job-table.ts';
import { toDto } from './job-table.ts';

/** How often jobs of other servers are looked at while somebody listens, ms. */
const LOOK_EVERY_MS = 500;

/** Those who listen to jobs, wherever these run. */
export class JobListeners {
  readonly #takers = new Map<string, Set<(job: JobDto) => void>>();
  readonly #told = new Map<string, string>();
  #timer: NodeJS.Timeout | undefined;
  #isLooking = false;

  /** @param isHere whether a job runs on this server, which tells of it itself */
  constructor(
    private readonly table: JobTable,
    private readonly isHere: (id: string) => boolean,
  ) {}

  /** Calls back at every change of a job until the returned function is called. */
  listen(id: string, take: (job: JobDto) => void): () => void {
    const takers = this.#takers.get(id) ?? new Set();
    this.#takers.set(id, takers.add(take));
    this.#timer ??= setInterval(() => void this.look(), LOOK_EVERY_MS);
    return () => {
      takers.delete(take);
      if (takers.size > 0 || this.#takers.get(id) !== takers) return;
      this.#takers.delete(id);
      this.#told.delete(id);
      if (this.#takers.size === 0) this.stop();
    };
  }

  tell(job: JobDto): void {
    const takers = this.#takers.get(job.id);
    if (!takers) return;
    this.#told.set(job.id, JSON.stringify(job));
    for (const take of takers) take({ ...job, progress: { ...job.progress } });
  }

  /** Looks at the jobs of other servers that somebody listens to. */
  async look(): Promise<void> {
    if (this.#isLooking) return;
    this.#isLooking = true;
    try {
      const ids = [...this.#takers.keys()].filter((id) => !this.isHere(id));
      for (const row of await this.table.all(ids)) {
        const job = toDto(row);
        // what runs here since it was asked tells more than the table; the end of a job is always in the table
        if (this.isHere(job.id) && !hasEnded(job.state)) continue;
        if (this.#told.get(job.id) !== JSON.stringify(job)) this.tell(job);
      }
    } catch {
      // the database is away for a moment; the next look tells
    } finally {
      this.#isLooking = false;
    }
  }

  stop(): void {
    clearInterval(this.#timer);
    this.#timer = undefined;
  }
}
