import type { TileLoader } from './tile-cache';

export const startTileWorker = (): TileLoader =>
  new Worker(new URL('./tile-worker.ts', import.meta.url), { type: 'module' });
