/** Steps of every kind, drawn at random for a canvas. */
import { parseStep } from '@/core/formats/recipe'
import { type Size } from '@/core/raster/picture'
import { FINDERS, type MODIFIERS, type Step } from '@/core/steps/registry'
import { type Random } from './random'

/** Kinds of steps that are quick on any picture; the others are drawn now and then. */
export const QUICK =
  'rectangle ellipse polygon path band paint gradient similarColour colourSpot layer layer layer image palette saved'.split(
    ' ',
  )

/** What steps may name. */
export interface Named {
  readonly layers: readonly string[]
  readonly saved: readonly string[]
  readonly pictures: readonly string[]
}
type Draw = (random: Random, size: Size, named: Named) => Record<string, unknown> | null

const point = (random: Random, { width, height }: Size) => [
  Math.round(random.between(-0.05, 1.05) * width),
  Math.round(random.between(-0.05, 1.05) * height),
]
const points = (random: Random, size: Size, least: number, most: number) =>
  Array.from({ length: random.whole(least, most) }, () => point(random, size))
const box = (random: Random, { width, height }: Size) => ({
  x: Math.round(random.between(-0.1, 0.6) * width),
  y: Math.round(random.between(-0.1, 0.6) * height),
  width: Math.round(random.between(0.1, 0.8) * width),
  height: Math.round(random.between(0.1, 0.8) * height),
})
const corners = (random: Random, size: Size) => {
  const { x, y, width, height } = box(random, size)
  return [x, y, x + width, y + height]
}
const loop = (random: Random, size: Size) => {
  const { x, y, width, height } = box(random, size)
  return [
    [x, y],
    [x + width, y + height * random.between(0, 0.3)],
    [x + width * random.between(0.7, 1), y + height],
    [x, y + height],
  ]
}
const strokes = (random: Random, size: Size, extra: () => object = () => ({})) =>
  Array.from({ length: random.whole(1, 4) }, () => ({
    points: points(random, size, 1, 6),
    size: random.whole(3, 30),
    ...extra(),
  }))

export const FINDING: Record<keyof typeof FINDERS, Draw> = {
  rectangle: (random, size) => ({
    ...box(random, size),
    rotation: random.one([0, 0, 17]),
    cornerRadius: random.one([0, 6]),
  }),
  ellipse: (random, size) => ({ ...box(random, size), rotation: random.one([0, 30]) }),
  triangle: (random, size) => ({ ...box(random, size) }),
  band: (random, { width, height }) => ({
    axis: random.one(['row', 'column']),
    start: random.between(0, Math.min(width, height) * 0.6),
    size: random.between(1, Math.min(width, height) * 0.4),
  }),
  polygon: (random, size) => ({ points: points(random, size, 3, 7) }),
  path: (random, size) => ({
    d: `M${points(random, size, 3, 6)
      .map((p) => p.join(' '))
      .join(' L')} Z`,
  }),
  similarColour: (random, size) => ({
    at: point(random, size),
    tolerance: random.whole(5, 90),
    contiguous: random.chance(0.5),
    patch: random.one([1, 3, 5]),
    metric: random.one(['channel', 'perceptual']),
  }),
  palette: (random) => ({
    colours: Array.from({ length: random.whole(1, 3) }, () => [0, 1, 2].map(() => random.whole(0, 256))),
    spread: random.whole(5, 40),
  }),
  colourSpot: (random, size) => ({ at: point(random, size), radius: random.whole(5, 60), keep: random.chance(0.8) }),
  paint: (random, size) => ({ strokes: strokes(random, size, () => ({ hardness: random.one([1, 0.5]) })) }),
  gradient: (random, size) => ({
    shape: random.one(['linear', 'radial', 'conic', 'mirrored', 'rhombus']),
    from: point(random, size),
    to: point(random, size),
  }),
  image: (random, _size, { pictures }) =>
    pictures.length
      ? {
          asset: random.one(pictures),
          fit: random.one(['canvas', 'layer', 'none']),
          rotation: random.one([0, 20]),
          use: random.one(['luminance', 'alpha']),
          outside: random.one(['hidden', 'shown']),
        }
      : null,
  layer: (random, _size, { layers }) =>
    layers.length ? { layer: random.one(layers), use: random.one(['alpha', 'luminance', 'mask']) } : null,
  saved: (random, _size, { saved }) => (saved.length ? { selection: random.one(saved) } : null),
  liveWire: (random, size) => ({ anchors: points(random, size, 2, 6) }),
  edgeBand: (random, size) => ({ points: loop(random, size), width: random.whole(4, 20) }),
  edgePaint: (random, size) => ({ strokes: strokes(random, size) }),
  spread: (random, size) => ({
    strokes: strokes(random, size, () => ({ mode: random.one(['keep', 'keep', 'drop']) })),
  }),
  roughBox: (random, size) => (random.chance(0.5) ? { box: corners(random, size) } : { outline: loop(random, size) }),
  marks: (random, size) => ({
    keep: strokes(random, size),
    drop: strokes(random, size),
    unsure: random.chance(0.3) ? strokes(random, size) : [],
  }),
  regions: (random, size) => ({ at: points(random, size, 1, 4), detail: random.between(0, 1) }),
  subject: (random) => ({ pick: random.whole(0, 2) }),
  sky: (random) => ({ openings: random.one([0, 10, 1000]), twigs: random.one([0, 1, 4]) }),
  water: () => ({}),
  trimap: (random, _size, { pictures }) => (pictures.length ? { asset: random.one(pictures) } : null),
}
export const MODIFYING: Record<keyof typeof MODIFIERS, Draw> = {
  all: () => ({}),
  none: () => ({}),
  invert: () => ({}),
  grow: (random) => ({ by: random.whole(-8, 9) }),
  feather: (random) => ({ radius: random.between(0, 12) }),
  smooth: (random) => ({ radius: random.between(0, 8) }),
  contour: (random) => ({ thickness: random.between(1, 10) }),
  fillHoles: () => ({}),
  dropSpecks: (random) => ({ maxArea: random.whole(1, 200) }),
  transform: (random) => ({
    matrix: [random.between(0.7, 1.3), 0.1, -0.1, random.between(0.7, 1.3), random.whole(-20, 20), 5],
  }),
  opacity: (random) => ({ by: random.between(0, 1) }),
  limitColour: (random) => ({ colours: [[random.whole(0, 256), 128, 90]], spread: random.whole(5, 60) }),
  edge: (random) => ({ reach: random.whole(2, 8), feather: random.one([0, 2]), crispness: random.one([0, 0.4]) }),
}

let count = 0
/** A step of one of these kinds (any where none are given). */
export function anyStep(random: Random, size: Size, named: Named, kinds?: readonly string[]): Step {
  for (;;) {
    const kind = random.one(kinds ?? [...Object.keys(FINDING), ...Object.keys(FINDING), ...Object.keys(MODIFYING)])
    const finding = kind in FINDING
    const own = (finding ? FINDING[kind as keyof typeof FINDING] : MODIFYING[kind as keyof typeof MODIFYING])(
      random,
      size,
      named,
    )
    if (!own) continue
    return parseStep({
      kind,
      id: `made-up-${++count}`,
      ...own,
      ...(finding
        ? {
            op: random.one(['add', 'add', 'subtract', 'intersect']),
            feather: random.one([0, 0, 3.5]),
            grow: random.one([0, 0, 2, -2]),
            invert: random.chance(0.3),
            ...(FINDERS[kind as keyof typeof FINDERS].looksAtPixels ? { sample: random.one(['all', 'layer']) } : {}),
          }
        : {}),
    })
  }
}
