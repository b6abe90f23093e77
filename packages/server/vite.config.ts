import { defineConfig } from 'vite';

/** What reading a file needs of the registry: bundled, since its process would load 200 modules. */
const OF_IMPORT_PROCESS = ['css-tree', 'pngjs', 'saxes', 'xmlchars', 'colord', '@streamparser/json', 'libtess'];

// The server is bundled so that it starts fast and needs no loader; other packages from the registry stay outside.
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
        'empty-database-tool': 'src/empty-database-tool.ts',
        'database-thread': 'src/db/database-thread.ts',
        'import-process': 'src/jobs/import-process.ts',
        'export-thread': 'src/exports/export-thread.ts',
        'compare-thread': 'src/revisions/compare-thread.ts',
        'index-thread': 'src/pyramid/index-thread.ts',
        'reading-thread': 'src/jobs/reading-thread.ts',
        'tile-thread': 'src/pyramid/tile-thread.ts',
      },
      output: { entryFileNames: '[name].js', chunkFileNames: '[name]-[hash].js' },
    },
  },
  // of this package the whole is there in one file; the modules would look for their data beside themselves
  resolve: { alias: { 'css-tree': 'css-tree/dist/csstree.esm' } },
  ssr: { noExternal: [/^@gull-pane\//, ...OF_IMPORT_PROCESS] },
});
