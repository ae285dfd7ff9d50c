import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  oxc: { decorator: { legacy: true } },
  test: {
    include: ['src/**/*.test.ts', 'tests/cross-checks/**/*.test.ts', 'training/**/*.test.ts'],
    // They run beside the journeys, and wait for them: a time that only what hangs exceeds.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    pool: 'forks',
    maxWorkers: 2,
  },
})
