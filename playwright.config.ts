import { defineConfig } from '@playwright/test';

const executablePath = process.env.CHROMIUM_PATH ?? '/usr/bin/chromium-headless-shell';

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/seed-demo.ts',
  workers: 2, // while one waits for what a person could see, the other works
  fullyParallel: true,
  timeout: 600_000, // an hour’s work isn’t lost because a machine is busy
  expect: { timeout: 60_000 },
  retries: 1, // a machine that stands still for seconds; said at the end of a run
  reporter: [['./scripts/progress-browser.mjs'], ['json', { outputFile: '.cache/reports/browser.json' }]],
  use: {
    viewport: { width: 1024, height: 700 },
    actionTimeout: 120_000, // what isn’t there isn’t waited for as long as a whole test
    trace: 'off', // recording takes longer than doing; `npm run test:browser -- --trace on` has it
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath,
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--use-gl=angle',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        '--disable-gpu-compositing', // twice as fast where there is no graphics processor
      ],
    },
  },
});
