import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '#core': fileURLToPath(new URL('./core', import.meta.url)) } },
  test: {
    include: ['core/**/*.test.ts', 'server/**/*.test.ts', 'demo/**/*.test.ts'],
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
})
