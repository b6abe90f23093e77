import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['packages/{core,importers,exchange,exporters,protocol,demo,web}/src/**/*.test.ts'],
          environment: 'node',
          setupFiles: ['./vitest.seed.ts'],
          isolate: false, // loading the same modules for each file takes longer than the tests
          testTimeout: 240_000, // properties are tried hundreds of times, beside lint
        },
      },
      {
        test: {
          name: 'api',
          include: ['packages/server/**/*.test.ts'],
          globalSetup: ['./packages/server/test/prepare.ts'],
          environment: 'node',
          setupFiles: ['./vitest.seed.ts'],
          testTimeout: 600_000, // on a busy machine forty imports take minutes
          hookTimeout: 600_000,
          isolate: false, // each file has a server of its own, so the server's modules may be shared
          maxWorkers: 2,
        },
      },
    ],
  },
});
