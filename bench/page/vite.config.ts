import { defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  base: '/bench/',
  build: { target: 'es2023', outDir: '../../.cache/bench/page', emptyOutDir: true, chunkSizeWarningLimit: 2000 },
  worker: { format: 'es' },
});
