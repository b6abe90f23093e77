import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Their tests take minutes, though the files are short: begun last, they would run on while nothing else is left to do. */
const LONG = /\/(hostile-models|hostile-drawings|backups)\.test/;

class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const isLong = ({ moduleId }: TestSpecification): boolean => LONG.test(moduleId);
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))];
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: LongFirst },
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
          expect: { poll: { timeout: 120_000 } },
          hookTimeout: 600_000,
          retry: 1, // real processes on a machine that may stand still for seconds; said at the end of a run
          isolate: false, // each file has a server of its own, so the server's modules may be shared
          maxWorkers: 2,
        },
      },
      {
        test: {
          name: 'api-postgres', // the same on a PostgreSQL server, where one is installed
          include: ['packages/server/**/*.test.ts'],
          // about files and processes, or about the embedded database itself
          exclude: [
            'hostile-*',
            'large-*',
            'many-*',
            'import-processes',
            'backups',
            'migration',
            'embedded-database',
            'command-line',
            'blobs',
            'shipped',
          ].map((name) => `packages/server/test/${name}.test.ts`),
          globalSetup: ['./packages/server/test/prepare.ts', './packages/server/test/prepare-postgres.ts'],
          environment: 'node',
          setupFiles: ['./vitest.seed.ts'],
          testTimeout: 600_000,
          expect: { poll: { timeout: 120_000 } },
          hookTimeout: 600_000,
          retry: 1, // real processes on a machine that may stand still for seconds; said at the end of a run
          isolate: false,
          maxWorkers: 2,
        },
      },
    ],
  },
});
