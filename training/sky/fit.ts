/**
 * Fits the weights of core/segment/skyRegions.ts. Usage: training/sky/run [--places FOLDER] [--skies FOLDER] [--points FILE]
 * --places: what training/scenes/places.py draws; --skies: photographs with their skies, as training/photographs.py --skies makes them; --points: photographs
 * with points on sky and beside it, {"name": {"sky": {"yes": [[x, y], …], "no": …}}}, x and y as shares of the picture, name.jpg beside the file.
 * Each photograph is left out in turn; then all are taken. Once with what the network makes of them, once without.
 */
import '@/core/network/withSkyWeights'
import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { parseArgs } from 'node:util'
import sharp from 'sharp'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { FROM_NETWORK, SKY_FEATURES, skyFeatures } from '@/core/segment/skyRegions'
import { skySeen } from '@/core/segment/skySeen'
import { skyRegionsOf } from '@/core/select/sky'
import { segmentView } from '@/core/segment/view'

interface Row {
  readonly picture: string
  readonly sky: number
  weight: number
  readonly values: Float32Array
}
/**
 * All places together count as much as all photographs, a photograph with its sky as much as so many points: a third of what those with points have, since
 * these landscapes are alike. A region counts when so much of it is on one side.
 */
const PURE = 0.9,
  POINTS = 7
/** Newton's method ends when no weight moves by more. */
const STILL = 1e-4
/** Ridge on standardised weights: keeps them small where the rows do not decide. */
const RIDGE = 3

const { values: args } = parseArgs({
  options: { places: { type: 'string' }, skies: { type: 'string' }, points: { type: 'string' } },
})

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
  return { graph, lab: view.lab, features: skyFeatures(graph, gradient, view.lab, skySeen(view)) }
}
/** Regions that lie on one side, by how much of the picture they are. @param grey coverage of the sky in the picture's red */
async function ofTruth(picture: string, file: string, truth: string): Promise<Row[]> {
  const { graph, lab, features } = await regionsOf(file),
    alpha = await read(truth),
    sky = new Float64Array(graph.count)
  for (let i = 0; i < graph.regionOf.length; i++) {
    const x = Math.floor((((i % lab.width) + 0.5) * alpha.width) / lab.width),
      y = Math.floor(((Math.floor(i / lab.width) + 0.5) * alpha.height) / lab.height)
    sky[graph.regionOf[i]] += alpha.data[4 * (y * alpha.width + x)] / 255
  }
  return features.flatMap((values, r) => {
    const share = sky[r] / graph.area[r]
    return share > PURE || share < 1 - PURE
      ? [{ picture, sky: share > 0.5 ? 1 : 0, weight: graph.area[r] / graph.regionOf.length, values }]
      : []
  })
}

async function ofPlaces(folder: string): Promise<Row[]> {
  const rows: Row[] = []
  for (const name of readdirSync(folder)) {
    const alpha = join(folder, name, 'alpha.png')
    if (!existsSync(alpha)) continue
    for (const view of ['photo', 'truth1', 'truth2', 'truth3'])
      rows.push(...(await ofTruth(`${name} ${view}`, join(folder, name, `${view}.jpg`), alpha)))
  }
  return rows
}
async function ofSkies(folder: string): Promise<Row[]> {
  const rows: Row[] = []
  for (const file of readdirSync(folder))
    if (file.endsWith('.jpg'))
      rows.push(...(await ofTruth(file, join(folder, file), join(folder, file.replace(/jpg$/, 'png')))))
  for (const row of rows) row.weight *= POINTS
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

/** Weighted logistic regression by Newton's method, on the first `count` values, standardised; bias first. */
function fit(rows: readonly Row[], count: number): number[] {
  const looked = SKY_FEATURES.slice(0, count),
    total = rows.reduce((sum, { weight }) => sum + weight, 0),
    means = looked.map((_, k) => rows.reduce((sum, row) => sum + row.weight * row.values[k], 0) / total),
    spreads = looked.map((_, k) =>
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
    const steps = solve(curve, slope)
    steps.forEach((step, k) => (weights[k] += step))
    if (steps.every((step) => Math.abs(step) < STILL)) break
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
    whole = (some: readonly Row[]) => some.reduce((sum, { weight }) => sum + weight, 0),
    share = (some: readonly Row[]) => whole(some.filter(right)) / Math.max(1e-9, whole(some)),
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

const points = args.points ? await ofPoints(args.points) : [],
  skies = args.skies ? await ofSkies(args.skies) : [],
  photos = [...points, ...skies],
  places = args.places ? await ofPlaces(args.places) : [],
  whole = (rows: readonly Row[]) => rows.reduce((sum, { weight }) => sum + weight, 0),
  bySize = photos.length ? whole(photos) / whole(places) : 1
for (const row of places) row.weight *= bySize
const names = [...new Set(photos.map((row) => row.picture))]
for (const [title, count] of [
  ['WITHOUT', SKY_FEATURES.length - FROM_NETWORK],
  ['WITH', SKY_FEATURES.length],
] as const) {
  const leftOut = new Map(
      names.map((name) => [name, fit([...photos.filter((row) => row.picture !== name), ...places], count)]),
    ),
    right = (row: Row) => isSky(leftOut.get(row.picture)!, row) === (row.sky === 1)
  if (points.length) told(`${title}, photographs with points, each left out:`, points, right)
  if (skies.length) told(`${title}, photographs with skies, each left out:`, skies, right)
  const final = fit([...photos, ...places], count)
  if (places.length) told(`${title}, places:`, places, (row) => isSky(final, row) === (row.sky === 1))
  console.log(
    `${title} = { bias: ${final[0].toFixed(3)}, weights: [${final
      .slice(1)
      .map((w) => w.toFixed(4))
      .join(', ')}] }`,
  )
}
