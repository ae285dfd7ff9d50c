/**
 * Fits the weights of core/segment/skyRegions.ts. Usage: training/sky/run [--places FOLDER] [--points FILE]
 * --places: what training/scenes/places.py draws; --points: photographs with points on sky and beside it, {"name": {"sky": {"yes": [[x, y], …], "no": …}}},
 * x and y as shares of the picture, name.jpg beside the file. Each photograph is left out in turn; then all are taken.
 */
import '@/core/network/withWeights'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { parseArgs } from 'node:util'
import sharp from 'sharp'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { SKY_FEATURES, skyFeatures } from '@/core/segment/skyRegions'
import { skyRegionsOf } from '@/core/select/sky'
import { segmentView } from '@/core/segment/view'

interface Row {
  readonly picture: string
  readonly sky: number
  weight: number
  readonly values: Float32Array
}
/** All places together count as much as all photographs. A region counts when so much of it is on one side. */
const PURE = 0.9
/** Ridge on standardised weights: keeps them small where the rows do not decide. */
const RIDGE = 3

const { values: args } = parseArgs({ options: { places: { type: 'string' }, points: { type: 'string' } } })

async function read(file: string) {
  const { data, info } = await sharp(file)
    .rotate()
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) }
}
async function regionsOf(file: string) {
  const view = segmentView(sceneOf(await read(file), file), 'layer', plainContext()),
    { graph, gradient } = skyRegionsOf(view)
  return { graph, lab: view.lab, features: skyFeatures(graph, gradient, view.lab) }
}

async function ofPlaces(folder: string): Promise<Row[]> {
  const rows: Row[] = []
  for (const name of readdirSync(folder)) {
    if (!existsSync(join(folder, name, 'alpha.png'))) continue
    const alpha = await read(join(folder, name, 'alpha.png'))
    for (const view of ['photo', 'truth1', 'truth2', 'truth3']) {
      const { graph, lab, features } = await regionsOf(join(folder, name, `${view}.jpg`)),
        sky = new Float64Array(graph.count)
      for (let i = 0; i < graph.regionOf.length; i++) {
        const x = Math.floor((((i % lab.width) + 0.5) * alpha.width) / lab.width),
          y = Math.floor(((Math.floor(i / lab.width) + 0.5) * alpha.height) / lab.height)
        sky[graph.regionOf[i]] += alpha.data[4 * (y * alpha.width + x)] / 255
      }
      features.forEach((values, r) => {
        const share = sky[r] / graph.area[r]
        if (share > PURE || share < 1 - PURE)
          rows.push({ picture: `${name} ${view}`, sky: share > 0.5 ? 1 : 0, weight: graph.area[r], values })
      })
    }
  }
  return rows
}

async function ofPoints(file: string): Promise<Row[]> {
  const rows: Row[] = []
  type Points = Record<string, { sky: { yes: [number, number][]; no: [number, number][] } | null }>
  for (const [name, { sky }] of Object.entries(JSON.parse(readFileSync(file, 'utf8')) as Points)) {
    if (!sky) continue
    const { graph, lab, features } = await regionsOf(join(dirname(file), `${name}.jpg`))
    const at = ([x, y]: readonly [number, number]) =>
      features[graph.regionOf[Math.floor(y * lab.height) * lab.width + Math.floor(x * lab.width)]]
    for (const place of sky.yes) rows.push({ picture: name, sky: 1, weight: 1, values: at(place) })
    for (const place of sky.no) rows.push({ picture: name, sky: 0, weight: 1, values: at(place) })
  }
  return rows
}

/** Weighted logistic regression by Newton's method, on standardised values; bias first. */
function fit(rows: readonly Row[]): number[] {
  const count = SKY_FEATURES.length,
    total = rows.reduce((sum, { weight }) => sum + weight, 0),
    means = SKY_FEATURES.map((_, k) => rows.reduce((sum, row) => sum + row.weight * row.values[k], 0) / total),
    spreads = SKY_FEATURES.map((_, k) =>
      Math.sqrt(rows.reduce((sum, row) => sum + row.weight * (row.values[k] - means[k]) ** 2, 0) / total),
    ),
    standard = rows.map(({ values }) => [1, ...means.map((mean, k) => (values[k] - mean) / spreads[k])])
  const weights = new Array<number>(count + 1).fill(0)
  for (let round = 0; round < 25; round++) {
    const slope = weights.map((w, k) => (k ? -RIDGE * w : 0)),
      curve = weights.map((_, k) => weights.map((_, j) => (k === j ? (k ? RIDGE : 1e-9) : 0)))
    standard.forEach((x, i) => {
      const p = 1 / (1 + Math.exp(-x.reduce((sum, v, k) => sum + v * weights[k], 0))),
        { weight, sky } = rows[i]
      for (let k = 0; k <= count; k++) {
        slope[k] += weight * (sky - p) * x[k]
        for (let j = 0; j <= count; j++) curve[k][j] += weight * p * (1 - p) * x[k] * x[j]
      }
    })
    solve(curve, slope).forEach((step, k) => (weights[k] += step))
  }
  const plain = weights.slice(1).map((w, k) => w / spreads[k])
  return [weights[0] - plain.reduce((sum, w, k) => sum + w * means[k], 0), ...plain]
}
/** Gaussian elimination with pivots. */
function solve(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const m = matrix.map((row, k) => [...row, right[k]])
  for (let k = 0; k < m.length; k++) {
    const pivot = m.reduce((best, row, r) => (r >= k && Math.abs(row[k]) > Math.abs(m[best][k]) ? r : best), k)
    ;[m[k], m[pivot]] = [m[pivot], m[k]]
    for (let r = 0; r < m.length; r++)
      if (r !== k) {
        const by = m[r][k] / m[k][k]
        for (let c = k; c <= m.length; c++) m[r][c] -= by * m[k][c]
      }
  }
  return m.map((row, k) => row[m.length] / row[k])
}
const isSky = ([bias, ...weights]: readonly number[], { values }: Row): boolean =>
  weights.reduce((sum, w, k) => sum + w * values[k], bias) > 0
function told(title: string, rows: readonly Row[], right: (row: Row) => boolean): void {
  const pictures = [...new Set(rows.map((row) => row.picture))],
    share = (some: readonly Row[]) => some.filter(right).length / Math.max(1, some.length),
    mean = (of: (name: string) => Row[]) => {
      const shares = pictures
        .map(of)
        .filter((some) => some.length)
        .map(share)
      return (100 * shares.reduce((sum, v) => sum + v, 0)) / shares.length
    },
    worst = pictures.map((name) => share(rows.filter((row) => row.picture === name))).sort((a, b) => a - b)
  console.log(
    title,
    `sky ${mean((name) => rows.filter((row) => row.picture === name && row.sky)).toFixed(1)} %, beside it ${mean((name) => rows.filter((row) => row.picture === name && !row.sky)).toFixed(1)} %, worst pictures ${worst
      .slice(0, 3)
      .map((v) => v.toFixed(2))
      .join(', ')}`,
  )
}

const photos = args.points ? await ofPoints(args.points) : [],
  places = args.places ? await ofPlaces(args.places) : [],
  whole = places.reduce((sum, { weight }) => sum + weight, 0)
for (const row of places) row.weight *= (photos.length || places.length) / whole
const names = [...new Set(photos.map((row) => row.picture))],
  leftOut = new Map(names.map((name) => [name, fit([...photos.filter((row) => row.picture !== name), ...places])]))
if (photos.length)
  told('photographs, each left out:', photos, (row) => isSky(leftOut.get(row.picture)!, row) === (row.sky === 1))
const final = fit([...photos, ...places])
if (places.length) told('places:', places, (row) => isSky(final, row) === (row.sky === 1))
console.log(
  `const BIAS = ${final[0].toFixed(3)},\n  WEIGHTS = [${final
    .slice(1)
    .map((w) => w.toFixed(4))
    .join(', ')}]`,
)
