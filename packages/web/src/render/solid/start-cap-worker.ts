import type { WorkerEnd } from '../../basics/worker-line';

export const startCapWorker = (): WorkerEnd =>
  new Worker(new URL('./cap-worker.ts', import.meta.url), { type: 'module' });
