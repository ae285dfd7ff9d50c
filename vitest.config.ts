import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  oxc: { decorator: { legacy: true } },
  test: {
    include: ['src/**/*.test.ts', 'tests/cross-checks/**/*.test.ts', 'training/**/*.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
    setupFiles: ['tests/networkWeights.ts'],
    pool: 'forks',
    maxWorkers: 2,
  },
})
