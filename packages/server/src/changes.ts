import { asc, gt, lt, max, min } from 'drizzle-orm';
import type { ChangeEvent } from '@gull-pane/protocol/events';
import type { Database } from './db/database.ts';
import { news } from './db/schema.ts';

/** A change with its place among all. */
export interface News {
  readonly id: number;
  readonly event: ChangeEvent;
}

/** So many changes are kept; who was away for longer loads everything anew. */
const KEPT = 5_000;
/** Older ones are thrown away each time so many have been added. */
const TIDY_EVERY = 200;

/**
 * Passes on what has changed to everybody who listens, in one order, and keeps it for a while, so that nobody who was away for a
 * moment misses anything.
 */
export class Changes {
  readonly #listeners = new Set<(news: News) => void>();
  #last: Promise<unknown> = Promise.resolve();
  #added = 0;

  constructor(private readonly db: Database) {}

  /** Tells of a change that the database has. */
  tell(event: ChangeEvent): void {
    // one after the other: who hears of a change has heard of all before it
    this.#last = this.#last.then(() => this.#add(event)).catch((error: unknown) => console.error('news:', error));
  }

  /** All that was told before has been passed on. */
  async settled(): Promise<void> {
    await this.#last;
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
    return this.db.select({ id: news.id, event: news.event }).from(news).where(gt(news.id, id)).orderBy(asc(news.id));
  }

  /** The id of the latest change; 0 if none is kept. */
  async latest(): Promise<number> {
    const [row] = await this.db.select({ last: max(news.id) }).from(news);
    return row?.last ?? 0;
  }

  async #add(event: ChangeEvent): Promise<void> {
    const [row] = await this.db.insert(news).values({ event }).returning({ id: news.id });
    const added: News = { id: row!.id, event };
    for (const listener of this.#listeners) listener(added);
    if (++this.#added % TIDY_EVERY === 0) await this.db.delete(news).where(lt(news.id, added.id - KEPT));
  }
}
