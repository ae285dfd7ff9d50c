/** npm run bench [row ...]: bundles the rows and runs them. Figures are ratios within one run; machines are noisy, so times are only rough. */
import { spawnSync } from 'node:child_process'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { build } from 'esbuild'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const outfile = join(root, 'dist/bench.mjs')
await build({
  entryPoints: {
    bench: join(root, 'bench/rows.ts'),
    beside: join(root, 'bench/beside.ts'),
    helper: join(root, 'src/server/jobs/helper.ts'),
  },
  outdir: join(root, 'dist'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
  alias: { '@': join(root, 'src') },
})
process.exitCode =
  spawnSync(process.execPath, ['--expose-gc', '--max-old-space-size=6000', outfile, ...process.argv.slice(2)], {
    stdio: 'inherit',
  }).status ?? 1
