import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { MessageChannel, type MessagePort as NodePort, Worker } from 'node:worker_threads'
import { build } from 'esbuild'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type DecodedPicture } from '@/core/compose/nodes'
import { foregroundColours } from '@/core/edge/foregroundColours'
import { type Crew, type Task } from '@/core/parallel/crew'
import { crewOf } from '@/core/parallel/threads'
import { picturePyramid } from '@/core/raster/levels'
import { type Matte, type Picture } from '@/core/raster/picture'
import { parseStep } from '@/core/formats/recipe'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { projectOf } from '@/document/edits'
import { EMPTY_HISTORY, type Edit, perform } from '@/document/history'
import { addLayer, placeLayer } from '@/document/layers'
import { adjustLayer } from '@/document/layerRecords'
import { type Project } from '@/document/records'
import { randomOf } from '../../tests/madeUp/random'
import { Studio } from './studio'

const WIDTH = 900,
  HEIGHT = 780

/** Soft-rimmed blobs on a wavy, grainy ground, from a seed. */
function madeUp(seed: number): { picture: Picture; matte: Matte } {
  const draw = randomOf(seed),
    blobs = Array.from({ length: 9 }, () => [draw() * WIDTH, draw() * HEIGHT, draw.between(40, 200)])
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4),
    coverage = new Uint8Array(WIDTH * HEIGHT)
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i++) {
      const depth = Math.max(...blobs.map(([bx, by, r]) => (r - Math.hypot(x - bx, y - by)) / 6 + 0.5)),
        inside = Math.min(1, Math.max(0, depth)),
        ground = 120 + 60 * Math.sin(x / 37 + seed) + 20 * draw()
      coverage[i] = inside * 255
      data.set([200 * inside + (1 - inside) * ground, 90 * inside + (1 - inside) * (ground + 30), 60, 255], i * 4)
    }
  return { picture: { width: WIDTH, height: HEIGHT, data }, matte: { width: WIDTH, height: HEIGHT, data: coverage } }
}

mkdirSync('dist', { recursive: true })
const folder = mkdtempSync(join(process.cwd(), 'dist', 'threads-'))
let helper: Worker, port: NodePort, crew: Crew
/** Pieces of work shared out, and how many of them this thread did itself. */
let pieces = 0,
  own = 0
beforeAll(async () => {
  const file = join(folder, 'helper.mjs')
  await build({
    entryPoints: [join(process.cwd(), 'src/server/jobs/helper.ts')],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    outfile: file,
    tsconfig: join(process.cwd(), 'tsconfig.json'),
    absWorkingDir: process.cwd(),
  })
  const { port1, port2 } = new MessageChannel()
  port = port1
  helper = new Worker(file, { workerData: { port: port2 }, transferList: [port2] })
  await new Promise((ready) => helper.once('online', ready))
  const threads = crewOf([port1])
  crew = {
    ...threads,
    share(task, common, all, check) {
      pieces += all.length
      const counted: typeof task = {
        name: task.name,
        begin(given, stop) {
          const work = task.begin(given, stop)
          return (piece) => {
            own++
            work(piece)
          }
        },
      }
      threads.share(counted, common, all, check)
    },
  }
})
afterAll(async () => {
  port.close()
  await helper.terminate()
  rmSync(folder, { recursive: true, force: true })
})

it('an edge is solved to the same bits by one thread and by two', () => {
  const { picture } = madeUp(2),
    steps = [
      parseStep({ kind: 'ellipse', x: 150, y: 120, width: 700, height: 600 }),
      parseStep({ kind: 'edge', reach: 6, strokes: [{ mode: 'unsure', size: 40, points: [[200, 200], [700, 500]] }] }), // prettier-ignore
    ]
  const one = foldSteps(steps, sceneOf(picture), plainContext()),
    two = foldSteps(steps, sceneOf(picture), { ...plainContext(), crew })
  expect(pieces).toBeGreaterThan(4)
  expect(Buffer.compare(Buffer.from(two.data), Buffer.from(one.data))).toBe(0)
  expect(one.data.some((v) => v > 20 && v < 235)).toBe(true)
  expect(own).toBeLessThan(pieces)
})

it('fringe colours are taken out to the same bits by one thread and by two', () => {
  const { picture, matte } = madeUp(3),
    one = foregroundColours(picture, matte, { amount: 0.8, rim: 3 }),
    two = foregroundColours(picture, matte, { amount: 0.8, rim: 3 }, undefined, crew)
  expect(Buffer.compare(Buffer.from(two.data), Buffer.from(one.data))).toBe(0)
  expect(Buffer.compare(Buffer.from(one.data), Buffer.from(picture.data))).not.toBe(0)
})

it('a composition with effects is drawn the same by one thread at once and by two in parts', () => {
  const name = 'f'.repeat(64),
    { picture } = madeUp(4),
    decoded: DecodedPicture = { levels: picturePyramid(picture, true), opaque: true }
  let n = 0
  const edits: Edit[] = [
    placeLayer('first', [0.9, 0.2, -0.2, 0.9, 60, 20]),
    ...(['discBlur', 'sharpen', 'exposure'] as const).map((kind) =>
      addLayer(
        adjustLayer(
          `layer ${++n}`,
          kind,
          { width: WIDTH, height: HEIGHT },
          parseAdjustment({ kind, ...(kind === 'exposure' ? { stops: 0.7 } : { radius: 9 }) }),
        ),
        n > 1 ? `layer ${n - 1}` : 'first',
      ),
    ),
  ]
  const project = edits.reduce<Project>(
    (state, edit, i) => perform(state, EMPTY_HISTORY, 'edit', edit, `act ${i}`, '2026-01-01T00:00:00Z')!.project,
    projectOf('Threads', { asset: name, width: WIDTH, height: HEIGHT, name: 'Blobs' }, 'first'),
  )
  const one = new Studio(() => decoded, 1 << 28).deliver(project),
    two = new Studio(() => decoded, 1 << 28, { crew }).deliver(project)
  let worst = 0
  for (let i = 0; i < one.data.length; i++) worst = Math.max(worst, Math.abs(one.data[i] - two.data[i]))
  expect(worst).toBeLessThanOrEqual(1)
})

/** Not known to the helper: whatever it takes fails there. */
const unknown: Task<{ out: Int32Array }, number> = {
  name: 'something nobody else knows',
  begin:
    ({ out }) =>
    (piece) => {
      Atomics.add(out, piece, 1)
    },
}

it('what a helper fails at is done by the thread that asked; what it throws ends the job', () => {
  const out = new Int32Array(new SharedArrayBuffer(4 * 50))
  crew.share(
    unknown,
    { out },
    Array.from({ length: 50 }, (_, i) => i),
  )
  expect([...out]).toEqual(Array.from({ length: 50 }, () => 1))
  expect(() =>
    crew.share(unknown, { out }, [0, 1, 2, 3], () => {
      throw new Error('No longer wanted.')
    }),
  ).toThrow('No longer wanted.')
  const after = [...out]
  crew.share(unknown, { out }, [10, 11])
  expect(out[10] + out[11]).toBe(after[10] + after[11] + 2)
})
