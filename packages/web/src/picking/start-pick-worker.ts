import type { WorkerEnd } from '../basics/worker-line';

export const startPickWorker = (): WorkerEnd =>
  new Worker(new URL('./pick-worker.ts', import.meta.url), { type: 'module' });
