import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

/** What takes longest first: begun last it would run alone, beside an idle processor. */
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]) {
    const long = ({ moduleId }: TestSpecification) => Number(moduleId.includes('/cross-checks/'))
    return (await super.sort(files)).sort((a, b) => long(b) - long(a))
  }
}

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
    sequence: { sequencer: LongestFirst },
  },
})
