import { defineConfig } from 'vite';

// The server is bundled so that it starts fast and needs no loader; packages from the registry stay outside.
export default defineConfig({
  build: {
    ssr: true,
    outDir: 'dist',
    target: 'node20',
    sourcemap: true,
    rolldownOptions: {
      input: {
        main: 'src/main.ts',
        'backup-tool': 'src/backup-tool.ts',
        'database-thread': 'src/db/database-thread.ts',
        'import-thread': 'src/jobs/import-thread.ts',
        'export-thread': 'src/exports/export-thread.ts',
      },
      output: { entryFileNames: '[name].js', chunkFileNames: '[name]-[hash].js' },
    },
  },
  ssr: { noExternal: [/^@gull-pane\//] },
});
