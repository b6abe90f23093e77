import type { ServerConfig } from '../config.ts';
import type { Changes } from '../changes.ts';
import type { Database } from '../db/database.ts';
import type { Drain } from '../drain.ts';
import type { ImportJobs } from '../jobs/import-jobs.ts';
import type { RemovedContents } from '../revisions/removed-contents.ts';
import type { BlobStore } from '../storage/blob-store.ts';
import type { Contents } from '../storage/contents.ts';
import type { DataFolder } from '../storage/data-folder.ts';
import type { UploadPieces } from '../storage/upload-pieces.ts';

/** Puts other data in the place of what is there, and back if a server can't start with it. */
export interface DataExchange {
  readonly swap: () => Promise<void>;
  readonly undo: () => Promise<void>;
}

/** What the plugins work with. */
export interface Services {
  readonly config: ServerConfig;
  readonly db: Database;
  /** See OpenDatabase.isAnswering. */
  readonly isDatabaseAnswering: () => boolean;
  /** What this server keeps on its machine. */
  readonly folder: DataFolder;
  readonly blobs: BlobStore;
  readonly contents: Contents;
  readonly removed: RemovedContents;
  readonly pieces: UploadPieces;
  readonly imports: ImportJobs;
  readonly drain: Drain;
  readonly changes: Changes;
  /** The database as it is, as a tar archive. */
  readonly dump: () => Promise<Uint8Array>;
  /** Starts everything anew with other data. */
  readonly restart: (exchange: DataExchange) => void;
}
