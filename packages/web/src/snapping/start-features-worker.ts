import type { FeaturesWorker } from './exact-features';

export const startFeaturesWorker = (): FeaturesWorker =>
  new Worker(new URL('./features-worker.ts', import.meta.url), { type: 'module' });
