// Every property test with other draws: node tests/properties/run.mjs [TIMES] [FIRST SEED]
import { execFileSync, spawnSync } from 'node:child_process'

const [times = 3, first = Date.now() % 1e6] = process.argv.slice(2).map(Number)
const files = execFileSync('git', ['grep', '-lE', "from '.*/properties'", '--', '*.test.ts'], { encoding: 'utf8' })
  .trim()
  .split('\n')
const failed = []
for (let seed = first; seed < first + times; seed++) {
  const { status, stdout, stderr } = spawnSync('npx', ['--no-install', 'vitest', 'run', ...files], {
    encoding: 'utf8',
    env: { ...process.env, PROPERTY_SEED: String(seed), NO_COLOR: '1' },
  })
  console.log(`seed ${seed}: ${status === 0 ? `${files.length} files passed` : `failed\n${stdout}${stderr}`}`)
  if (status !== 0) failed.push(seed)
}
console.log(failed.length ? `failed: PROPERTY_SEED=${failed.join(', ')}` : `${times} seeds passed`)
process.exit(failed.length ? 1 : 0)
