import { createReadStream } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pack, type Pack } from 'tar-stream';
import { BACKUP_FORMAT, BACKUP_VERSION, type BackupManifestDto } from '@gull-pane/protocol/backups';
import type { Database } from '../db/database.ts';
import { drawings } from '../db/schema.ts';
import type { RemovedContents } from '../revisions/removed-contents.ts';
import type { DataFolder } from '../storage/data-folder.ts';

interface Sources {
  readonly db: Database;
  readonly dump: () => Promise<Uint8Array>;
  readonly folder: DataFolder;
  readonly removed: RemovedContents;
}

/** Name of the database's own archive within a backup. */
export const DATABASE_ENTRY = 'database.tar';

/**
 * Everything that a server keeps, as a tar archive: the database as it is at this moment, then the files of the content
 * that it names. Content never changes once it is written and isn't removed meanwhile, so the server needn't stop.
 */
export async function writeBackup({ db, dump, folder, removed }: Sources): Promise<Readable> {
  const release = removed.hold();
  try {
    const before = await currentRevisions(db);
    const archive = await dump();
    const after = await currentRevisions(db);
    // the dump was made between the two: it names one of these
    const paths: string[] = [];
    for (const id of new Set([...before.keys(), ...after.keys()])) {
      const first = before.get(id) ?? 1;
      for (let revision = Math.max(1, first); revision <= Math.max(first, after.get(id) ?? 0); revision++)
        paths.push(...(await filesBelow(folder.root, `drawings/${id}/r${revision}`)));
    }
    if (await stat(join(folder.root, 'demo-seeded')).catch(() => null)) paths.push('demo-seeded');
    const manifest: BackupManifestDto = {
      format: BACKUP_FORMAT,
      version: BACKUP_VERSION,
      writtenAt: new Date().toISOString(),
      drawings: after.size,
      files: paths.length + 1,
    };
    const tar = pack();
    const fill = async (): Promise<void> => {
      const written = Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`);
      await addEntry(tar, 'manifest.json', written.length, Readable.from([written]));
      await addEntry(tar, DATABASE_ENTRY, archive.length, Readable.from([archive]));
      for (const path of paths) await addFile(tar, path, join(folder.root, path));
      tar.finalize();
    };
    fill().catch((error: unknown) => tar.destroy(error instanceof Error ? error : new Error(String(error))));
    // also when the reader has left
    (tar as unknown as Readable).once('close', () => void release().catch(() => undefined));
    return tar as unknown as Readable;
  } catch (error) {
    await release();
    throw error;
  }
}

/** Of each drawing the revision that is served; 0 while there is none. */
async function currentRevisions(db: Database): Promise<ReadonlyMap<string, number>> {
  const rows = await db.select({ id: drawings.id, revision: drawings.revision }).from(drawings);
  return new Map(rows.map(({ id, revision }) => [id, Math.max(revision, 0)]));
}

async function addFile(tar: Pack, name: string, path: string): Promise<void> {
  const { size } = await stat(path);
  await addEntry(tar, name, size, createReadStream(path, size > 0 ? { end: size - 1 } : {}));
}

/** @throws Error if the content can't be read, or the archive's reader has left */
async function addEntry(tar: Pack, name: string, size: number, content: Readable): Promise<void> {
  await new Promise<void>((resolve, reject) => {
    const entry = tar.entry({ name, size }, (error) => (error ? reject(error) : resolve()));
    // an archive that is given up ends its entry with an error, which nobody else hears
    entry.on('error', reject);
    entry.on('close', () => {
      content.destroy();
      reject(new Error('The archive was given up.')); // no matter once it is whole
    });
    content.on('error', reject).pipe(entry);
  });
}

async function filesBelow(root: string, path: string): Promise<string[]> {
  const entries = await readdir(join(root, path), { withFileTypes: true }).catch(() => []);
  const found: string[] = [];
  for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const below = `${path}/${entry.name}`;
    if (entry.isDirectory()) found.push(...(await filesBelow(root, below)));
    else found.push(below);
  }
  return found;
}
