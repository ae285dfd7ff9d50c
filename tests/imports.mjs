/**
 * Imports only point up the house: core imports nothing of ours, document imports core, engine both, server and cli those, ui talks to
 * the engine and never to a finder itself. Prints each import that breaks this.
 */
import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'

const ALLOWED = {
  core: ['core'],
  document: ['document', 'core'],
  engine: ['engine', 'document', 'core'],
  server: ['server', 'engine', 'document', 'core'],
  cli: ['cli', 'server', 'engine', 'document', 'core'],
  ui: ['ui', 'engine', 'document', 'core'],
  app: ['app', 'ui', 'server'],
  // Entries of Next.js beside the pages.
  'proxy.ts': ['server'],
  'instrumentation.ts': ['server'],
}
/** Of core/select the ui may use what describes steps, not what finds. */
const UI_OF_SELECT = /^core\/select\/(registry|fields|finder|similarColour\/toleranceCurve)$/
/** Within core, lower floors first: each may import itself and those before it. */
const CORE_FLOORS = [
  'common',
  'kernels',
  'raster',
  'colour',
  'vector',
  'matting',
  'segment',
  'select',
  'edge',
  'compose',
  'formats',
]
const CORE_MAY = {
  common: ['common'],
  kernels: ['kernels'],
  raster: ['raster', 'kernels'],
  colour: ['colour', 'raster', 'kernels'],
  vector: ['vector', 'raster', 'kernels'],
  segment: ['segment', 'common', 'vector', 'colour', 'raster', 'kernels'],
  matting: ['matting', 'colour', 'raster', 'kernels'],
  select: ['select', 'matting', 'segment', 'common', 'vector', 'colour', 'raster', 'kernels'],
  edge: ['edge', 'common', 'colour', 'raster', 'vector', 'select', 'kernels'],
  compose: ['compose', 'common', 'edge', 'colour', 'raster', 'kernels'],
  formats: ['formats', 'common', 'select', 'raster', 'vector'],
}
const NOT_IN_CORE = /^(react|next|node:|sharp|pg|drizzle|comlink|zustand|immer)/

const files = (folder) =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory()
      ? files(join(folder, entry.name))
      : /\.tsx?$/.test(entry.name)
        ? [join(folder, entry.name)]
        : [],
  )
const wrong = []
for (const file of files('src')) {
  const test = /\.test\.tsx?$/.test(file)
  const from = relative('src', file),
    [floor, room] = from.split('/')
  for (const [, type, target] of readFileSync(file, 'utf8').matchAll(
    /(?:^|\n)\s*(?:import|export)\s+(type\s+)?[^'"\n]*?from\s+['"]([^'"]+)['"]/g,
  )) {
    const ours = target.startsWith('@/')
      ? target.slice(2)
      : target.startsWith('.')
        ? relative('src', resolve(dirname(file), target))
        : null
    if (ours === null) {
      if (
        (floor === 'core' || floor === 'document') &&
        !test &&
        NOT_IN_CORE.test(target) &&
        !(floor === 'document' && target === 'immer')
      )
        wrong.push(`${from}: ${target} does not belong in ${floor}`)
      continue
    }
    const [there, thereRoom] = ours.split('/')
    if (ours.startsWith('..')) {
      if (!test) wrong.push(`${from}: ${target} lies outside src`)
      continue
    }
    if (!ALLOWED[floor]?.includes(there)) wrong.push(`${from}: ${floor} must not import ${there} (${target})`)
    if (
      floor === 'core' &&
      there === 'core' &&
      room !== thereRoom &&
      !test &&
      CORE_FLOORS.includes(room) &&
      !CORE_MAY[room].includes(thereRoom)
    )
      wrong.push(`${from}: core/${room} must not import core/${thereRoom}`)
    if (floor === 'ui' && ours.startsWith('core/select/') && !UI_OF_SELECT.test(ours) && !type)
      wrong.push(`${from}: ui talks to the engine, not to ${ours}`)
  }
}
for (const line of wrong) console.error(line)
console.log(`imports: ${wrong.length ? `${wrong.length} point the wrong way` : 'all point up the house'}`)
process.exitCode = wrong.length ? 1 : 0
