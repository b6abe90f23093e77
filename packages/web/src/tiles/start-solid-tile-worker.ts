import type { SolidTileContent } from './solid-tile-content';
import type { FromLoader, Loader, ToLoader } from './tile-cache';

export const startSolidTileWorker = (): Loader<ToLoader, FromLoader<SolidTileContent>> =>
  new Worker(new URL('./solid-tile-worker.ts', import.meta.url), { type: 'module' });
