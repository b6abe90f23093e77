import { resolve } from 'node:path';
import { StartError } from './start-error.ts';

export interface ServerConfig {
  readonly host: string;
  readonly port: number;
  readonly dataFolder: string;
  /** Largest file that is taken, bytes. */
  readonly maxUploadBytes: number;
  /** Imports at the same time. */
  readonly parallelImports: number;
}

/** Reads the settings from the environment. */
export function configFromEnvironment(env: NodeJS.ProcessEnv): ServerConfig {
  return {
    host: env.HOST ?? '127.0.0.1',
    port: whole('PORT', env.PORT, 4180, 0, 65_535),
    dataFolder: resolve(env.GULL_PANE_DATA ?? './data'),
    maxUploadBytes: whole('GULL_PANE_MAX_UPLOAD_MB', env.GULL_PANE_MAX_UPLOAD_MB, 1024, 1, 1 << 20) * 1024 * 1024,
    parallelImports: whole('GULL_PANE_PARALLEL_IMPORTS', env.GULL_PANE_PARALLEL_IMPORTS, 1, 1, 64),
  };
}

function whole(name: string, text: string | undefined, fallback: number, min: number, max: number): number {
  if (text === undefined || text === '') return fallback;
  const value = Number(text);
  if (!Number.isInteger(value) || value < min || value > max) {
    throw new StartError(`${name} must be a whole number from ${min} to ${max}, got “${text}”.`);
  }
  return value;
}
