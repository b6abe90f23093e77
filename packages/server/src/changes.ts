import { asc, gt, lt, max, min, sql } from 'drizzle-orm';
import type { ChangeEvent } from '@gull-pane/protocol/events';
import type { Database } from './db/database.ts';
import { isLostConnection, whileConnectionReturns } from './db/lost-connection.ts';
import { news } from './db/schema.ts';
import type { Signals } from './db/signals.ts';

/** A change with its place among all. */
export interface News {
  readonly id: number;
  readonly event: ChangeEvent;
}

/** So many changes are kept; who was away for longer loads everything anew. */
const KEPT = 5_000;
/** Older ones are thrown away each time so many have been added. */
const TIDY_EVERY = 200;
/** How long a change is tried to be written while the database can't be reached, s. */
const LONGEST_WAIT_S = 60;

/** How often the table is read in case a notification was lost, ms. */
const LOOK_EVERY_MS = 5_000;
/** Changes of several servers get their numbers one after the other, so that they become visible in that order. */
const NUMBERING_LOCK = 0x6775_6c6f;

/**
 * Passes on what has changed to everybody who listens, on whichever server it was changed, in one order, and keeps it for a
 * while, so that nobody who was away for a moment misses anything.
 */
export class Changes {
  readonly #listeners = new Set<(news: News) => void>();
  readonly #stopListening: () => void;
  readonly #timer: NodeJS.Timeout;
  #last: Promise<unknown> = Promise.resolve();
  /** Null until it is known. */
  #heardId: number | null = null;
  #isLookQueued = false;
  #added = 0;

  constructor(
    private readonly db: Database,
    private readonly signals: Signals,
  ) {
    this.#look();
    this.#stopListening = signals.listen('news', () => this.#look());
    this.#timer = setInterval(() => this.#look(), LOOK_EVERY_MS);
  }

  /** Tells of a change that the database has. */
  tell(event: ChangeEvent): void {
    this.#then(async () => {
      await whileConnectionReturns(LONGEST_WAIT_S, () => this.#add(event));
      this.signals.send('news');
    });
  }

  /** All that was told before has been passed on. */
  async settled(): Promise<void> {
    await this.#last;
  }

  async stop(): Promise<void> {
    clearInterval(this.#timer);
    this.#stopListening();
    await this.settled();
  }

  /** @returns a function that ends it */
  listen(listener: (news: News) => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /**
   * The changes after a given one.
   * @param id of the last change that a client received
   * @returns null if not all of it is kept any more
   */
  async since(id: number): Promise<readonly News[] | null> {
    const [ends] = await this.db.select({ first: min(news.id), last: max(news.id) }).from(news);
    const [first, last] = [ends?.first ?? 1, ends?.last ?? 0];
    // an id that was never given is of another database, such as one that a backup was restored over
    if (id > last || id < first - 1) return null;
    return this.#after(id);
  }

  /** The id of the latest change; 0 if none is kept. */
  async latest(): Promise<number> {
    const [row] = await this.db.select({ last: max(news.id) }).from(news);
    return row?.last ?? 0;
  }

  #after(id: number): Promise<News[]> {
    return this.db.select({ id: news.id, event: news.event }).from(news).where(gt(news.id, id)).orderBy(asc(news.id));
  }

  async #add(event: ChangeEvent): Promise<void> {
    await this.db.transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(${NUMBERING_LOCK})`);
      const [row] = await tx.insert(news).values({ event }).returning({ id: news.id });
      if (++this.#added % TIDY_EVERY === 0) await tx.delete(news).where(lt(news.id, row!.id - KEPT));
    });
  }

  /** Passes on what was added since the last look, here or by another server. */
  #look(): void {
    if (this.#isLookQueued) return;
    this.#isLookQueued = true;
    this.#then(async () => {
      this.#isLookQueued = false;
      this.#heardId ??= await this.latest();
      for (const added of await this.#after(this.#heardId)) {
        this.#heardId = added.id;
        for (const listener of this.#listeners) listener(added);
      }
    });
  }

  #then(work: () => Promise<void>): void {
    this.#last = this.#last.then(work).catch((error: unknown) => {
      if (!isLostConnection(error)) console.error('news:', error);
    });
  }
}
