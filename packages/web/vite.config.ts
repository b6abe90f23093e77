import { fileURLToPath } from 'node:url';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';

export default defineConfig({
  // compressed once here rather than at every answer; the server sends what a browser takes
  plugins: [
    react(),
    compression({ algorithms: ['brotliCompress', 'gzip'], include: /\.(js|css|html|svg)$/, threshold: 1024 }),
  ],
  resolve: {
    alias: {
      '@rc-component/async-validator': fileURLToPath(new URL('./src/basics/no-form-rules.ts', import.meta.url)),
    },
  },
  server: { proxy: { '/api': `http://127.0.0.1:${process.env.GULL_PANE_API_PORT ?? '4181'}` } },
  build: {
    target: 'es2023',
    chunkSizeWarningLimit: 2000,
    assetsInlineLimit: 0,
    rolldownOptions: {
      // the component library doesn't say so itself: nothing happens by merely importing one of its modules
      treeshake: { moduleSideEffects: [{ test: /node_modules\/(@rc-component|@ant-design)\//, sideEffects: false }] },
      // what many parts of the page use stands in a few files: sixty small ones compress less well, each with a head
      output: {
        codeSplitting: {
          groups: [
            { name: 'core', test: /packages\/(core|protocol)\//, minShareCount: 3 },
            { name: 'page', test: /packages\/web\/src\//, minShareCount: 20 },
            // few share them, but every drawing needs them
            {
              name: 'kept',
              test: /packages\/web\/src\/(store\/(\w+-)*(list|cards-store|tours-store|arrangements-store|find-store)|pages\/page-states)/,
            },
            {
              name: 'shared',
              test: /node_modules\/(react|react-dom|scheduler|three|react-router|zustand|lucide-react)\//,
              minShareCount: 26,
            },
          ],
        },
      },
    },
  },
  worker: { format: 'es' },
});
