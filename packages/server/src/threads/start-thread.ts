import { join } from 'node:path';
import { Worker, type ResourceLimits } from 'node:worker_threads';

/** Our worker threads, by the name of their file in the built server, with their source. */
const sources = {
  'database-thread': '../db/database-thread.ts',
  'import-thread': '../jobs/import-thread.ts',
  'export-thread': '../exports/export-thread.ts',
} as const;

/**
 * Starts a worker thread: the built file beside this one, or its source while developing. Tests run the server's source
 * with built threads (`GULL_PANE_BUILT_THREADS` names their folder): compiling them for each import takes seconds.
 */
export function startThread(name: keyof typeof sources, data: unknown, resourceLimits: ResourceLimits = {}): Worker {
  const folder = process.env.GULL_PANE_BUILT_THREADS;
  if (folder !== undefined) return new Worker(join(folder, `${name}.js`), { workerData: data, resourceLimits });
  const runsFromSource = import.meta.url.endsWith('.ts');
  if (!runsFromSource) {
    const built = new URL(`${name}.js`, import.meta.url);
    return new Worker(built, { workerData: data, resourceLimits });
  }
  // a thread doesn't inherit the loader of its parent; it finds it from the working folder, the repository's
  const source = new URL(sources[name], import.meta.url).href;
  const begin = `import('tsx/esm/api').then(({ register }) => (register(), import(${JSON.stringify(source)})))`;
  return new Worker(begin, { eval: true, workerData: data, resourceLimits });
}
