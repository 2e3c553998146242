import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: {
    alias: {
      '#core': fileURLToPath(new URL('./core', import.meta.url)),
      '~~': fileURLToPath(new URL('.', import.meta.url)),
      '~': fileURLToPath(new URL('./app', import.meta.url)),
    },
  },
  test: {
    include: [
      'app/**/*.test.ts',
      'core/**/*.test.ts',
      'scripts/**/*.test.ts',
      'server/**/*.test.ts',
      'demo/**/*.test.ts',
      'crash/**/*.test.ts',
      'cases/**/*.test.ts',
    ],
    // The disk of a busy machine may take its time; only what hangs is to be ended.
    testTimeout: 60_000,
    // No test leaves anything in a module, so all share one set of them: three times as quick.
    isolate: false,
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
})
