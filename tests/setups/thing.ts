/** A thing on a shaded wall, marks and outlines around it, and finders run on it. */
import { parseStep } from '@/core/formats/recipe'
import { type Matte, type Picture } from '@/core/raster/picture'
import { fillPolygons, type Point } from '@/core/vector/fill'
import { type Context } from '@/core/select/finder'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'

export const WIDTH = 360,
  HEIGHT = 240

/** Repeatable noise. */
export function random(seed: number): () => number {
  let s = seed
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0
    return s / 2 ** 32
  }
}
export type Colour = readonly [number, number, number]
export function paint(colourAt: (x: number, y: number) => Colour, grain = 6, seed = 1): Picture {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4),
    next = random(seed)
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const c = colourAt(i % WIDTH, Math.floor(i / WIDTH)),
      g = (next() + next() - 1) * grain
    data.set([c[0] + g, c[1] + g, c[2] + g, 255], i * 4)
  }
  return { width: WIDTH, height: HEIGHT, data }
}
export const disc: readonly Point[] = Array.from({ length: 90 }, (_, k) => {
  const a = (k / 90) * 2 * Math.PI
  return [180 + 62 * Math.cos(a) + 12 * Math.cos(3 * a), 120 + 62 * Math.sin(a)] as const
})
export const truth = fillPolygons({ width: WIDTH, height: HEIGHT }, [disc], 'evenodd')
export const mixed = (inside: Colour, outside: (x: number, y: number) => Colour) =>
  paint((x, y) => {
    const t = truth.data[y * WIDTH + x] / 255,
      o = outside(x, y)
    return [0, 1, 2].map((c) => o[c] + (inside[c] - o[c]) * t) as unknown as Colour
  })
export const thing = mixed([190, 90, 50], (x, y) => [120 + x / 12, 130 + y / 16, 150])
export const uniform = paint(() => [128, 128, 128], 0),
  noise = paint(() => [128, 128, 128], 250, 7)

export function run(picture: Picture, step: object, network = true): { matte: Matte; note: string | undefined } {
  let note: string | undefined
  const context: Context = {
    ...plainContext(),
    network,
    stepDone: (_, __, ___, ____, said) => {
      note = said
    },
  }
  return { matte: foldSteps([parseStep(step)], sceneOf(picture), context), note }
}
export const found = (matte: Matte): number => matte.data.reduce((sum, v) => sum + v, 0) / 255 / matte.data.length
export const dots = (...points: Point[]) => points.map((p) => ({ points: [p], size: 12 }))
export const loose: readonly Point[] = [
  [90, 60],
  [200, 40],
  [275, 100],
  [260, 190],
  [140, 200],
  [85, 150],
]

/** Drawn around it with some 12 px to spare, corner by corner. */
export const wide: readonly Point[] = Array.from({ length: 12 }, (_, k) => {
  const [x, y] = disc[Math.floor(k * 7.5)]
  return [180 + (x - 180) * 1.18, 120 + (y - 120) * 1.18] as const
})
