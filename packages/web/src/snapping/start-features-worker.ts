import type { WorkerEnd } from '../basics/worker-line';

export const startFeaturesWorker = (): WorkerEnd =>
  new Worker(new URL('./features-worker.ts', import.meta.url), { type: 'module' });
