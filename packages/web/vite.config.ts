import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';

export default defineConfig({
  // compressed once here rather than at every answer; the server sends what a browser takes
  plugins: [
    react(),
    compression({ algorithms: ['brotliCompress', 'gzip'], include: /\.(js|css|html|svg)$/, threshold: 1024 }),
  ],
  server: { proxy: { '/api': `http://127.0.0.1:${process.env.GULL_PANE_API_PORT ?? '4181'}` } },
  build: { target: 'es2023', chunkSizeWarningLimit: 2000, assetsInlineLimit: 0 },
  worker: { format: 'es' },
});
