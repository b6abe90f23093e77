import type { PickWorker } from './pick-client';

export const startPickWorker = (): PickWorker =>
  new Worker(new URL('./pick-worker.ts', import.meta.url), { type: 'module' });
