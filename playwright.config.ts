import { defineConfig } from '@playwright/test'
import { BASE, SIGNED_IN } from './e2e/address'

/** The real interface against the production build, over a demo workspace of its own that is filled anew each time. */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/sign-in.setup.ts',
  fullyParallel: false,
  workers: 1,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    baseURL: BASE,
    storageState: SIGNED_IN,
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'node scripts/bundled.mjs demo/fill.ts --fresh && node .output/server/index.mjs',
    env: { PORT: '3117', SKY_LEVER_DB: '.data/e2e.db', SKY_LEVER_LOG: 'warn' },
    url: 'http://localhost:3117/api/v1/session',
    timeout: 120_000,
    reuseExistingServer: false,
    stdout: 'pipe',
  },
})
