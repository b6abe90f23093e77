import { Worker, type ResourceLimits } from 'node:worker_threads';
import { builtFile } from './built-file.ts';

/** Our worker threads, by the name of their file in the built server, with their source. */
const sources = {
  'database-thread': '../db/database-thread.ts',
  'export-thread': '../exports/export-thread.ts',
  'compare-thread': '../revisions/compare-thread.ts',
  'index-thread': '../pyramid/index-thread.ts',
  'reading-thread': '../jobs/reading-thread.ts',
  'tile-thread': '../pyramid/tile-thread.ts',
} as const;

/** For threads that make many large buffers: they go with the young objects, and these are looked through often. */
export const fewYoung: ResourceLimits = { maxYoungGenerationSizeMb: 8 };

/** Starts a worker thread: the built file beside this one, or its source while developing. */
export function startThread(name: keyof typeof sources, data: unknown, resourceLimits: ResourceLimits = {}): Worker {
  const built = builtFile(name);
  if (built !== null) return new Worker(built, { workerData: data, resourceLimits });
  // a thread doesn't inherit the loader of its parent; it finds it from the working folder, the repository's
  const source = new URL(sources[name], import.meta.url).href;
  const begin = `import('tsx/esm/api').then(({ register }) => (register(), import(${JSON.stringify(source)})))`;
  return new Worker(begin, { eval: true, workerData: data, resourceLimits });
}
