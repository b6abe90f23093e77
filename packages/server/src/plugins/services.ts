import type { ServerConfig } from '../config.ts';
import type { Changes } from '../changes.ts';
import type { Database } from '../db/database.ts';
import type { ImportJobs } from '../jobs/import-jobs.ts';
import type { DataFolder } from '../storage/data-folder.ts';

/** What the plugins work with. */
export interface Services {
  readonly config: ServerConfig;
  readonly db: Database;
  /** See OpenDatabase.isAnswering. */
  readonly isDatabaseAnswering: () => boolean;
  readonly folder: DataFolder;
  readonly imports: ImportJobs;
  readonly changes: Changes;
}
