import { execFileSync } from 'node:child_process';

/** What an import took of time, and how much of its process lay in RAM at most. */
export interface ImportTaken {
  readonly seconds: number;
  readonly peakMb: number;
}

/** Imports a file as the built server does: in a process of its own, with nothing beside it. */
export function importBuilt(file: string): ImportTaken {
  const told = execFileSync('node', ['--max-old-space-size=4096', '--import', 'tsx', 'bench/import-alone.ts', file]);
  return JSON.parse(told.toString()) as ImportTaken;
}
