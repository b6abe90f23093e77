import { and, eq, sql } from 'drizzle-orm';
import type { Database, Transaction } from '../db/database.ts';
import { drawings, removedContents, revisions } from '../db/schema.ts';
import type { Contents } from '../storage/contents.ts';

/**
 * Files of content that was removed. They stay for a while, where that is set: so long a copy of the database that was made
 * before finds all its files.
 */
export class RemovedContents {
  #holds = 0;

  constructor(
    private readonly db: Database,
    private readonly contents: Contents,
    private readonly keptHours: number,
  ) {}

  /** @param revision null for all of the drawing */
  async add(tx: Database | Transaction, drawingId: string, revision: number | null): Promise<void> {
    await tx.insert(removedContents).values({ drawingId, revision });
  }

  /** Keeps all files while they are copied. @returns a function that ends it */
  hold(): () => Promise<void> {
    this.#holds++;
    return async () => {
      this.#holds--;
      await this.sweep();
    };
  }

  /** Removes the files whose time is over. */
  async sweep(): Promise<void> {
    if (this.#holds > 0) return;
    const due = await this.db
      .select()
      .from(removedContents)
      .where(sql`${removedContents.removedAt} <= now() - make_interval(hours => ${this.keptHours})`);
    for (const { id, drawingId, revision } of due) {
      if (!(await this.#isThereAgain(drawingId, revision))) {
        if (revision === null) await this.contents.removeAll(drawingId);
        else await this.contents.remove(drawingId, revision);
      }
      await this.db.delete(removedContents).where(eq(removedContents.id, id));
    }
  }

  /** A package brings a drawing back under its own id. */
  async #isThereAgain(drawingId: string, revision: number | null): Promise<boolean> {
    const [drawing] = await this.db
      .select({ revision: drawings.revision })
      .from(drawings)
      .where(eq(drawings.id, drawingId));
    if (!drawing) return false;
    if (revision === null || drawing.revision === revision) return true;
    const rows = await this.db
      .select({ number: revisions.number })
      .from(revisions)
      .where(and(eq(revisions.drawingId, drawingId), eq(revisions.number, revision)));
    return rows.length > 0;
  }
}
