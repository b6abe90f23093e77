import { randomBytes, randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { eq } from 'drizzle-orm';
import { StartError } from '../start-error.ts';
import type { BlobStore } from '../storage/blob-store.ts';
import type { Database } from './database.ts';
import { sharedSettings } from './schema.ts';

/** @returns what all servers of a database have agreed on; the first that asks decides */
async function agreed(db: Database, name: string, proposed: string): Promise<string> {
  await db.insert(sharedSettings).values({ name, value: proposed }).onConflictDoNothing();
  const [row] = await db.select().from(sharedSettings).where(eq(sharedSettings.name, name));
  return row!.value;
}

/** What sessions are signed with, so that any server can read them. */
export const signingSecret = (db: Database): Promise<string> =>
  agreed(db, 'signing-secret', randomBytes(32).toString('base64url'));

/** The blob that names the place where blobs are. */
const PLACE_KEY = 'place-id';
/** Another server that starts for the first time has decided on a name, and writes it down, ms. */
const [PATIENCE_MS, PAUSE_MS] = [5_000, 100] as const;

/**
 * Servers of one database must share their files, too.
 * @throws StartError if the files of this one are at another place
 */
export async function refuseOtherPlace(db: Database, blobs: BlobStore): Promise<void> {
  let here = await textOf(blobs, PLACE_KEY);
  const proposed = here ?? randomUUID();
  const known = await agreed(db, PLACE_KEY, proposed);
  // the first server of a new database
  if (here === null && known === proposed) {
    await blobs.put(PLACE_KEY, Readable.from([known]));
    return;
  }
  for (const beganMs = performance.now(); here === null && performance.now() - beganMs < PATIENCE_MS;) {
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    here = await textOf(blobs, PLACE_KEY);
  }
  if (here !== known)
    throw new StartError(
      'The files of this database are at another place: name it in GULL_PANE_BLOBS, a folder that all servers share or an object store.',
    );
}

async function textOf(blobs: BlobStore, key: string): Promise<string | null> {
  const blob = await blobs.get(key);
  if (!blob) return null;
  const pieces: Buffer[] = [];
  for await (const piece of blob.stream) pieces.push(piece as Buffer);
  return Buffer.concat(pieces).toString();
}

/** @returns whether nobody else has done something that is to be done once in the life of a database */
export async function isFirstTo(db: Database, name: string): Promise<boolean> {
  const added = await db
    .insert(sharedSettings)
    .values({ name, value: new Date().toISOString() })
    .onConflictDoNothing()
    .returning();
  return added.length > 0;
}
