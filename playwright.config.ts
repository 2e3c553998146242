import { defineConfig } from '@playwright/test'
import { WORKERS } from './e2e/address'

/** The real interface against the production build, over demo workspaces of its own that are filled anew each time. */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/servers.setup.ts',
  fullyParallel: false,
  workers: WORKERS,
  // Only what hangs is to be ended: a busy host may take ten times as long as a quiet one.
  timeout: 300_000,
  expect: { timeout: 45_000 },
  // A busy host may lose a moment; the report names as flaky what passed at its second try.
  retries: 1,
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    // Every step of every test drawn and kept costs a third of the time: only a second try is.
    trace: 'on-first-retry',
    launchOptions: {
      // The browser without its windows: half the time of the whole one, which draws menus that nobody sees.
      executablePath: '/usr/bin/chromium-headless-shell',
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
})
