import { join } from 'node:path'
import { build, type Metafile } from 'esbuild'
import { beforeAll, expect, it } from 'vitest'

/** What is run before the page is made, and the page. */
const ENTRIES = ['src/instrumentation-client.ts', 'src/ui/workbench/Workbench.tsx']
/** What only workers and the server compute with. */
const WORK = /^src\/core\/(select|segment|network|matting|kernels|parallel)\//
/** Of our own code, minified, before anything is split off or compressed, bytes: three fifths of the 474 700 it was before kinds of steps came in two halves. */
const MOST_OWN = 284_800

let outputs: Metafile['outputs']
beforeAll(async () => {
  const { metafile } = await build({
    entryPoints: ENTRIES.map((file) => join(process.cwd(), file)),
    bundle: true,
    splitting: true,
    minify: true,
    write: false,
    metafile: true,
    format: 'esm',
    outdir: 'unused',
    jsx: 'automatic',
    tsconfig: join(process.cwd(), 'tsconfig.json'),
    external: ['next/*'],
    define: { 'process.env.NODE_ENV': '"production"' },
    logLevel: 'silent',
  })
  outputs = metafile.outputs
})

/** The chunks that are loaded before anything is shown. */
function firstLoad(): string[] {
  const isEntry = (name: string) => ENTRIES.includes(outputs[name].entryPoint ?? ''),
    seen = new Set(Object.keys(outputs).filter(isEntry))
  expect(seen.size).toBe(ENTRIES.length)
  for (const name of seen)
    for (const { path, kind } of outputs[name].imports) if (kind === 'import-statement' && outputs[path]) seen.add(path)
  return [...seen]
}
const inputsOf = (chunks: readonly string[]) => chunks.flatMap((name) => Object.entries(outputs[name].inputs))

it('no algorithm and no kernel is in the page’s own code, neither at first nor later', () => {
  const held = inputsOf(Object.keys(outputs)).filter(([, { bytesInOutput }]) => bytesInOutput > 0)
  expect(held.length).toBeGreaterThan(100)
  expect(held.map(([file]) => file).filter((file) => WORK.test(file))).toEqual([])
})

it('the first load of a project holds three fifths of our own code that it once held', () => {
  const chunks = firstLoad(),
    own = inputsOf(chunks).filter(([file]) => file.startsWith('src/')),
    bytes = own.reduce((sum, [, { bytesInOutput }]) => sum + bytesInOutput, 0)
  expect(bytes).toBeLessThanOrEqual(MOST_OWN)
  expect(chunks.length).toBeLessThan(Object.keys(outputs).length)
})
