import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  server: { proxy: { '/api': `http://127.0.0.1:${process.env.GULL_PANE_API_PORT ?? '4181'}` } },
  build: { target: 'es2023', chunkSizeWarningLimit: 2000, assetsInlineLimit: 0 },
  worker: { format: 'es' },
});
