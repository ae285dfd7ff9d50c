/**
 * npm run quality [-- --scenes FOLDER] [--task NAME,...] [--only WORD] [--jobs N] [--rows FILE] [--without-network] [--figures]: how well the finders by object do on pictures with a
 * known answer. Without --scenes on the small set beside this file; README.md there says how to draw more. --rows keeps each answer as JSON; --figures keeps
 * the means and the worst of the small set, for bin/test to hold on to.
 */
import { spawn } from 'node:child_process'
import { existsSync, readdirSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { createInterface } from 'node:readline'
import { fileURLToPath, pathToFileURL } from 'node:url'
import { parseArgs } from 'node:util'
import { build } from 'esbuild'

const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const { values: options } = parseArgs({
  options: {
    scenes: { type: 'string' },
    task: { type: 'string' },
    only: { type: 'string' },
    jobs: { type: 'string', default: '2' },
    rows: { type: 'string' },
    figures: { type: 'boolean', default: false },
    'without-network': { type: 'boolean', default: false },
  },
})
await build({
  entryPoints: { quality: join(root, 'quality/scenes.ts'), qualityReport: join(root, 'quality/report.ts') },
  outdir: join(root, 'dist'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
  alias: { '@': join(root, 'src') },
})
const { figures, report } = await import(pathToFileURL(join(root, 'dist/qualityReport.mjs')).href)
const folder = resolve(options.scenes ?? join(root, 'quality/scenes')),
  tasks = options.task ?? 'roughBox,marks,subject,subjectOfThree,regions,liveWire,trimap,sky',
  scenes = readdirSync(folder)
    .sort()
    .filter((name) => (!options.only || name.includes(options.only)) && existsSync(join(folder, name, 'meta.json')))
const jobs = Math.max(1, Math.min(Number(options.jobs) || 1, scenes.length)),
  rows = []
const shares = Array.from({ length: jobs }, (_, k) => scenes.filter((_, i) => i % jobs === k))
await Promise.all(
  shares.map(async (share) => {
    const child = spawn(
      process.execPath,
      [join(root, 'dist/quality.mjs'), tasks, ...share.map((name) => join(folder, name))],
      {
        stdio: ['ignore', 'pipe', 'inherit'],
        env: { ...process.env, ...(options['without-network'] ? { WITHOUT_NETWORK: '1' } : {}) },
      },
    )
    const ended = new Promise((done) => child.on('close', done))
    for await (const line of createInterface({ input: child.stdout })) {
      const row = JSON.parse(line)
      rows.push(row)
      console.log(
        `${row.scene.padEnd(16)} ${row.task.padEnd(15)} ${row.answer.value.toFixed(4).padStart(9)} ${String(row.ms).padStart(7)} ms`,
      )
    }
    if (await ended) process.exitCode = 1
  }),
)
console.log(`\n${report(rows)}`)
if (options.rows) writeFileSync(options.rows, JSON.stringify(rows))
if (options.figures) writeFileSync(join(root, 'quality/figures.json'), `${JSON.stringify(figures(rows), null, 2)}\n`)
