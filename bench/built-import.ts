import { execFile } from 'node:child_process';
import { promisify } from 'node:util';

/** What an import took of time, and how much of its process lay in RAM at most. */
export interface ImportTaken {
  readonly seconds: number;
  readonly peakMb: number;
}

/** Imports a file as the built server does: in a process of its own, with nothing beside it. */
export async function importBuilt(file: string): Promise<ImportTaken> {
  const script = ['--max-old-space-size=4096', '--import', 'tsx', 'bench/import-alone.ts', file];
  const { stdout } = await promisify(execFile)('node', script);
  return JSON.parse(stdout) as ImportTaken;
}
