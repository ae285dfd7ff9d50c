/** Speed, side by side: each row runs ours and the reference in turn on a 12-megapixel picture in the same process, and prints the ratio of the medians. */
import '@/core/network/withWeights'
import sharp from 'sharp'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type BlendMode } from '@/core/compose/modes'
import { type Node } from '@/core/compose/nodes'
import { composeRegion } from '@/core/compose/renderer'
import { resize } from '@/core/raster/resize'
import { gaussianBlur } from '@/core/raster/gaussian'
import { paintStrokes } from '@/core/raster/brush'
import { grow } from '@/core/raster/grow'
import { IDENTITY } from '@/core/raster/affine'
import { picturePyramid } from '@/core/raster/levels'
import { emptyMatte, type Matte, type Picture } from '@/core/raster/picture'
import { matteSubpaths } from '@/core/vector/fitCurves'
import { traceMatte } from '@/core/vector/trace'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { polygon } from '@/core/select/polygon'
import { palette } from '@/core/select/palette'
import { similarColour, warm } from '@/core/select/similarColour'
import { regions } from '@/core/select/regions'
import { roughBox } from '@/core/select/roughBox'
import { sky } from '@/core/select/sky'
import { subject } from '@/core/select/subject'
import { quickWire, wirePath, wires } from '@/core/segment/liveWire'
import { measure } from '@/core/match/measure'
import { matchLayer } from '@/core/match/surroundings'
import { edge } from '@/core/select/modifiers/edge'
import { foregroundColours } from '@/core/edge/foregroundColours'
import { ribbonPicture, unroll } from '@/core/edge/ribbon'
import { solveUnknown } from '@/core/matting/solveUnknown'
import { openCv } from './opencv'
import { textbookClosedForm } from './textbook'
import { threadRows } from './threads'

const WIDTH = 4242,
  HEIGHT = 2828 // 12 megapixels
const ROUNDS = 7
const { cv } = await openCv()

const { data } = await sharp('demo/pictures/otter-puppet-24mp.jpg')
  .resize(WIDTH, HEIGHT)
  .ensureAlpha()
  .raw()
  .toBuffer({ resolveWithObject: true })
const photo: Picture = {
  width: WIDTH,
  height: HEIGHT,
  data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
}
const rgb = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC3)
for (let i = 0, o = 0; i < photo.data.length; i += 4) {
  rgb.data[o++] = photo.data[i]
  rgb.data[o++] = photo.data[i + 1]
  rgb.data[o++] = photo.data[i + 2]
}

const scene = sceneOf(photo)
const withSky = sceneOf(
  await (async (): Promise<Picture> => ({
    width: WIDTH,
    height: HEIGHT,
    data: new Uint8ClampedArray(
      await sharp('demo/pictures/lantern-quay.jpg')
        .resize(WIDTH, HEIGHT, { fit: 'fill' })
        .ensureAlpha()
        .raw()
        .toBuffer(),
    ),
  }))(),
)
/** About where its sky is. */
const upperPart: Matte = {
  width: WIDTH,
  height: HEIGHT,
  data: new Uint8Array(WIDTH * HEIGHT).fill(255, 0, WIDTH * Math.round(0.3 * HEIGHT)),
}
const AT = [310, 760] as const,
  TOLERANCE = 34
const pick = {
  at: AT,
  tolerance: TOLERANCE,
  contiguous: true,
  patch: 1 as const,
  metric: 'channel' as const,
  antialias: true,
  sample: 'all' as const,
}
// As in the application: a picture that is open has its run extremes.
const context = plainContext()
warm(scene, 'all', context)
const found = similarColour.find(scene, pick, context)
const matte: Matte = { width: WIDTH, height: HEIGHT, data: found.data.slice() }
const matteMat = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC1)
matteMat.data.set(matte.data)
const hard: Matte = { ...matte, data: matte.data.map((v) => (v > 127 ? 255 : 0)) }
const hardMat = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC1)
hardMat.data.set(hard.data)
const out = new cv.Mat()
const disc = cv.getStructuringElement(cv.MORPH_ELLIPSE, new cv.Size(41, 41))
const opencvFlood = () => {
  const mask = cv.Mat.zeros(HEIGHT + 2, WIDTH + 2, cv.CV_8UC1)
  const t = new cv.Scalar(TOLERANCE, TOLERANCE, TOLERANCE, 0)
  cv.floodFill(
    rgb,
    mask,
    new cv.Point(AT[0], AT[1]),
    new cv.Scalar(0, 0, 0, 0),
    new cv.Rect(),
    t,
    t,
    4 | (255 << 8) | cv.FLOODFILL_FIXED_RANGE | cv.FLOODFILL_MASK_ONLY,
  )
  mask.delete()
}
const prepared = plainContext()
for (const step of similarColour.prepare!(scene, pick, prepared)) void step
let tick = 0

const over: Picture = { ...photo, data: photo.data.slice() }
const twoLayers = (blend: BlendMode): Node[] => [
  { kind: 'picture', picture: { levels: picturePyramid(photo, true), opaque: true }, toCanvas: IDENTITY, opacity: 1 },
  {
    kind: 'picture',
    picture: { levels: picturePyramid(over, true), opaque: true },
    toCanvas: IDENTITY,
    opacity: 1,
    blend,
    mask: { levels: [matte], toCanvas: IDENTITY },
  },
]
const whole = { level: 0, x: 0, y: 0, width: WIDTH, height: HEIGHT }
const blurredBy = (radius: number): Node[] => [
  twoLayers('normal')[0],
  { kind: 'adjust', adjustment: parseAdjustment({ kind: 'discBlur', radius }), opacity: 1 },
]
const relit: Node[] = [
  twoLayers('normal')[0],
  {
    kind: 'adjust',
    adjustment: parseAdjustment({
      kind: 'relight',
      light: [0.8, 0.8, 0.8],
      ambient: [0.7, 0.5, 0.35],
      sun: [0.1, 0.05, 0],
    }),
    opacity: 1,
  },
]
type Four = [number, number, number, number]
const DIMMER: [Four, Four, Four, Four] = [
  [0.9, 0, 0, 0],
  [0, 0.7, 0, 0],
  [0, 0, 0.5, 0],
  [0, 0, 0, 1],
]
const skyLayer = (values: object): Node[] => [
  twoLayers('normal')[0],
  { kind: 'adjust', adjustment: parseAdjustment(values), opacity: 1, key: JSON.stringify(values) },
]
const hazy = skyLayer({ kind: 'haze', amount: 0.2, had: 0.2, was: [0.7, 0.7, 0.7], air: [0.8, 0.5, 0.3], patch: 240 }),
  mirroring = skyLayer({ kind: 'reflection', horizon: 1400, blur: 80, was: [0.7, 0.7, 0.7] })
const placed = twoLayers('normal'),
  multiplied = twoLayers('multiply')
const withAlpha = Buffer.from(photo.data)
for (let i = 0; i < matte.data.length; i++) withAlpha[i * 4 + 3] = matte.data[i]
const raw = { raw: { width: WIDTH, height: HEIGHT, channels: 4 as const } }

const outline = Array.from({ length: 10_000 }, (_, i): [number, number] => {
  const a = (i / 10_000) * 2 * Math.PI,
    r = 1000 + 150 * Math.sin(23 * a) + 8 * Math.sin(700 * a)
  return [WIDTH / 2 + r * Math.cos(a), HEIGHT / 2 + r * Math.sin(a)]
})
const outlineMat = cv.matFromArray(
  outline.length,
  1,
  cv.CV_32SC2,
  outline.flatMap(([x, y]) => [Math.round(x * 16), Math.round(y * 16)]),
)
const outlines = new cv.MatVector()
outlines.push_back(outlineMat)
const canvasMat = cv.Mat.zeros(HEIGHT, WIDTH, cv.CV_8UC1)
// One stroke back and forth over the picture, its thousand dabs 60 px apart.
const zigzag = Array.from({ length: 16 }, (_, i): [number, number][] => [
  [200, 150 + i * 160],
  [3950, 150 + i * 160],
]).flatMap((line, i) => (i % 2 ? line.reverse() : line))
const brush = {
  points: zigzag,
  size: 200,
  hardness: 0.3,
  strength: 1,
  spacing: 0.3,
  tip: 'round' as const,
  erase: false,
}
const dabs = Array.from({ length: 1000 }, (_, i): [number, number] => [
  200 + ((i * 60) % 3750),
  150 + Math.floor((i * 60) / 3750) * 160,
])
const colours = [
  [159, 156, 185],
  [120, 70, 40],
  [40, 110, 120],
] as const
const lab = new cv.Mat(),
  inRange = new cv.Mat()
const low = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC3, new cv.Scalar(120, 110, 100, 0)),
  high = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC3, new cv.Scalar(200, 150, 140, 0))

// By object, on a picture of 1500 × 1000 and on the 12 megapixels.
const SMALL = { width: 1500, height: 1000 },
  smallPhoto: Picture = {
    ...SMALL,
    data: new Uint8ClampedArray(
      await sharp(photo.data, raw).resize(SMALL.width, SMALL.height, { fit: 'fill' }).raw().toBuffer(),
    ),
  },
  smallScene = sceneOf(smallPhoto)
const smallRgb = new cv.Mat(SMALL.height, SMALL.width, cv.CV_8UC3)
for (let i = 0, o = 0; i < smallPhoto.data.length; i += 4) {
  smallRgb.data[o++] = smallPhoto.data[i]
  smallRgb.data[o++] = smallPhoto.data[i + 1]
  smallRgb.data[o++] = smallPhoto.data[i + 2]
}
const roughly = { analyse: true, smoothEdge: true, sample: 'all' as const, box: [200, 40, 1340, 980] as const }
const grabCut = () => {
  const mask = new cv.Mat(),
    inside = new cv.Mat(),
    outside = new cv.Mat()
  cv.grabCut(smallRgb, mask, new cv.Rect(200, 40, 1140, 940), inside, outside, 5, cv.GC_INIT_WITH_RECT)
  for (const each of [mask, inside, outside]) each.delete()
}
const WINDOW = { x: 1600, y: 900, width: 1000, height: 1000 },
  windowMat = rgb.roi(new cv.Rect(WINDOW.x, WINDOW.y, WINDOW.width, WINDOW.height)).clone()
const scissors = new cv.segmentation_IntelligentScissorsMB()
scissors.applyImage(windowMat)
const wireLevels = picturePyramid(photo, true)

// The edge: what lies within 16 px of the true edge of the woolly puppet is unknown, at 1500 × 1000.
const trueMatte: Matte = {
  ...SMALL,
  data: new Uint8Array(
    await sharp('tests/fixtures/otter-puppet-matte.png')
      .extractChannel(0)
      .resize(SMALL.width, SMALL.height, { fit: 'fill' })
      .raw()
      .toBuffer(),
  ),
}
const wide = grow({ ...trueMatte, data: trueMatte.data.map((v) => (v > 10 ? 255 : 0)) }, 16),
  narrow = grow({ ...trueMatte, data: trueMatte.data.map((v) => (v > 245 ? 255 : 0)) }, -16),
  unknown = wide.data.map((v, i) => (v > 127 && narrow.data[i] < 128 ? 1 : 0)),
  known = trueMatte.data.map((v, i) => (unknown[i] ? 128 : v))
const solveEdge = () =>
  solveUnknown(smallPhoto, { ...SMALL, data: known.slice() }, unknown, 'closedForm', { check: () => {} })
const textbook = () =>
  textbookClosedForm(
    smallPhoto,
    unknown,
    Float64Array.from(known, (v) => v / 255),
  )
const edgeValues = {
    reach: 12,
    follow: true,
    smooth: 0,
    feather: 0,
    crispness: 0,
    offset: 0,
    solver: 'closedForm' as const,
  },
  edgeContext = plainContext(1 << 28)
const soft: Matte = { ...SMALL, data: trueMatte.data.map((v) => (v > 127 ? 255 : 0)) },
  strokeAt = (k: number) => ({
    points: [
      [420 + k, 200],
      [440 + k, 160],
    ] as const,
    size: 60,
    mode: 'unsure' as const,
  })
edge.modify({ ...soft, data: soft.data.slice() }, { ...edgeValues, strokes: [] }, edgeContext, smallScene)
const stroke = () =>
  edge.modify(
    { ...soft, data: soft.data.slice() },
    { ...edgeValues, strokes: [strokeAt(tick++ % 100)] },
    edgeContext,
    smallScene,
  )
const large: Matte = {
  width: WIDTH,
  height: HEIGHT,
  data: new Uint8Array(
    await sharp('tests/fixtures/otter-puppet-matte.png')
      .extractChannel(0)
      .resize(WIDTH, HEIGHT, { fit: 'fill' })
      .threshold(128)
      .raw()
      .toBuffer(),
  ),
}
const softMatte: Matte = {
  ...large,
  data: new Uint8Array(
    await sharp('tests/fixtures/otter-puppet-matte.png')
      .extractChannel(0)
      .resize(WIDTH, HEIGHT, { fit: 'fill' })
      .raw()
      .toBuffer(),
  ),
}
// A boundary of some 20 000 px: a star.
const starOutline = Array.from({ length: 4000 }, (_, i): [number, number] => {
    const a = (i / 4000) * 2 * Math.PI,
      r = 900 + 420 * Math.sin(11 * a)
    return [WIDTH / 2 + r * Math.cos(a), HEIGHT / 2 + r * Math.sin(a)]
  }),
  star = polygon.find(scene, { points: starOutline, antialias: true, sample: 'all' }, plainContext())
const ribbonOf = () => {
  const ribbon = unroll(star)
  ribbonPicture(ribbon, photo, star, { from: 4000, step: 1, width: 1280, height: 92, backing: 'checks' })
  return ribbon
}

type Work = () => unknown
const rows: [name: string, target: number | null, ours: Work, reference: string, theirs: Work][] = [
  [
    'similar pick, first answer',
    1.5,
    () => similarColour.find(scene, { ...pick, antialias: false }, context),
    'opencv-js floodFill',
    opencvFlood,
  ],
  [
    'the same with its soft edge',
    null,
    () => similarColour.find(scene, pick, context),
    'opencv-js floodFill',
    opencvFlood,
  ],
  [
    'similar pick, a tolerance tick',
    0.5,
    () => similarColour.find(scene, { ...pick, tolerance: 24 + (tick++ % 16) }, prepared),
    'opencv-js floodFill',
    opencvFlood,
  ],
  [
    'similar pick, all tolerances',
    null,
    () => {
      for (const step of similarColour.prepare!(scene, pick, plainContext())) void step
    },
    'opencv-js floodFill',
    opencvFlood,
  ],
  [
    'Gaussian feather, sigma 2',
    null,
    () => gaussianBlur(matte, 2),
    'opencv-js GaussianBlur',
    () => cv.GaussianBlur(matteMat, out, new cv.Size(0, 0), 2),
  ],
  [
    'Gaussian feather, sigma 10',
    0.25,
    () => gaussianBlur(matte, 10),
    'opencv-js GaussianBlur',
    () => cv.GaussianBlur(matteMat, out, new cv.Size(0, 0), 10),
  ],
  [
    'Gaussian feather, sigma 50',
    0.05,
    () => gaussianBlur(matte, 50),
    'opencv-js GaussianBlur',
    () => cv.GaussianBlur(matteMat, out, new cv.Size(0, 0), 50),
  ],
  ['grow by 20 px', 0.1, () => grow(hard, 20), 'opencv-js dilate, 41-px disc', () => cv.dilate(hardMat, out, disc)],
  [
    'freehand outline, 10 000 points',
    2,
    () => polygon.find(scene, { points: outline, antialias: true, sample: 'all' }, context),
    'opencv-js fillPoly, anti-aliased',
    () => cv.fillPoly(canvasMat, outlines, new cv.Scalar(255), cv.LINE_AA, 4),
  ],
  [
    '1 000 soft dabs of 200 px',
    4,
    () => paintStrokes(emptyMatte(photo), [brush]),
    'opencv-js circles',
    () => {
      for (const [x, y] of dabs) cv.circle(canvasMat, new cv.Point(x, y), 100, new cv.Scalar(255), -1)
    },
  ],
  [
    'palette of 3 colours',
    1,
    () => palette.find(scene, { colours, spread: 24, softness: 0.5, sample: 'all' }, plainContext()),
    'opencv-js cvtColor, inRange',
    () => {
      cv.cvtColor(rgb, lab, cv.COLOR_RGB2Lab)
      cv.inRange(lab, low, high, inRange)
    },
  ],
  [
    'contour of a matte',
    2,
    () => traceMatte(matte),
    'opencv-js findContours',
    () => {
      const contours = new cv.MatVector(),
        tree = new cv.Mat()
      cv.findContours(hardMat, contours, tree, cv.RETR_CCOMP, cv.CHAIN_APPROX_NONE)
      contours.delete()
      tree.delete()
    },
  ],
  [
    'contour as Bézier path',
    null,
    () => matteSubpaths(matte, 0.7),
    'opencv-js findContours',
    () => {
      const contours = new cv.MatVector(),
        tree = new cv.Mat()
      cv.findContours(hardMat, contours, tree, cv.RETR_CCOMP, cv.CHAIN_APPROX_NONE)
      contours.delete()
      tree.delete()
    },
  ],
  [
    'source-over with mask, 12 MP',
    1.5,
    () => composeRegion(placed, whole),
    'sharp composite',
    () =>
      sharp(photo.data, raw)
        .composite([{ input: withAlpha, ...raw }])
        .raw()
        .toBuffer(),
  ],
  [
    'Lanczos down to 1600 px, 12 MP',
    2,
    () => resize(photo, { width: 1600, height: Math.round((1600 * HEIGHT) / WIDTH) }, true),
    'sharp resize',
    () =>
      sharp(photo.data, raw)
        .resize(1600, Math.round((1600 * HEIGHT) / WIDTH), { fit: 'fill', kernel: 'lanczos3' })
        .raw()
        .toBuffer(),
  ],
  [
    'disc blur of 100 px, 12 MP',
    null,
    () => composeRegion(blurredBy(100), whole),
    'itself of 15 px',
    () => composeRegion(blurredBy(15), whole),
  ],
  [
    'multiply with mask, 12 MP',
    1.5,
    () => composeRegion(multiplied, whole),
    'sharp composite',
    () =>
      sharp(photo.data, raw)
        .composite([{ input: withAlpha, ...raw, blend: 'multiply' }])
        .raw()
        .toBuffer(),
  ],
  [
    'rough box, 1500 × 1000',
    0.1,
    () => roughBox.find(smallScene, roughly, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'rough box, 12 MP',
    1,
    () => roughBox.find(scene, { ...roughly, box: [566, 113, 3790, 2772] }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'live-wire map of a window',
    0.2,
    () =>
      wires(photo, [2100, 1400], { box: WINDOW, edgeGradient: 2.2 }, (tree) =>
        wirePath(tree, [2100, 1400], [1700, 1000]),
      ),
    'opencv-js IntelligentScissors applyImage, buildMap',
    () => {
      scissors.applyImage(windowMat)
      scissors.buildMap(new cv.Point(500, 500))
    },
  ],
  [
    'live wire to a moving pointer',
    null,
    () => quickWire(wireLevels, [1300, 700], [1300 + (tick++ % 50), 1500], 24, 2.2),
    'the map of a window',
    () =>
      wires(photo, [2100, 1400], { box: WINDOW, edgeGradient: 2.2 }, (tree) =>
        wirePath(tree, [2100, 1400], [1700, 1000]),
      ),
  ],
  ['edge as a matte, 1500 × 1000', 0.2, solveEdge, 'textbook closed form', textbook],
  ['unsure stroke of 60 px', null, stroke, 'the whole edge', solveEdge],
  [
    'edge step, 12 MP',
    null,
    () =>
      edge.modify({ ...large, data: large.data.slice() }, { ...edgeValues, strokes: [] }, plainContext(1 << 20), scene),
    'the edge of 1500 × 1000',
    solveEdge,
  ],
  [
    `ribbon of ${unroll(star).length} px`,
    null,
    ribbonOf,
    'opencv-js findContours',
    () => {
      const contours = new cv.MatVector(),
        tree = new cv.Mat()
      cv.findContours(hardMat, contours, tree, cv.RETR_CCOMP, cv.CHAIN_APPROX_NONE)
      contours.delete()
      tree.delete()
    },
  ],
  ['fringe colours, 12 MP', null, () => foregroundColours(photo, large), 'the edge of 1500 × 1000', solveEdge],
  [
    'regions, 12 MP',
    null,
    () => regions.find(scene, { at: [[2000, 1400]], detail: 0.3, sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'subject, 12 MP',
    null,
    () => subject.find(scene, { pick: 0, also: [], sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'sky, 12 MP',
    null,
    () => sky.find(withSky, { openings: 300, twigs: 1, sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'sky where there is none, 12 MP',
    null,
    () => sky.find(scene, { openings: 300, twigs: 1, sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'what a photo measures, 12 MP',
    null,
    () => measure(withSky.picture('all'), upperPart),
    'sharp stats',
    () => sharp(photo.data, raw).stats(),
  ],
  [
    'a layer to its surroundings, 12 MP',
    null,
    () => matchLayer({ own: photo, shows: large, below: withSky.picture('all'), sky: { own: null, below: null } }),
    'sharp stats',
    () => sharp(photo.data, raw).stats(),
  ],
  [
    'light of a new sky, 12 MP',
    1.5,
    () => composeRegion(relit, whole),
    'sharp recomb',
    () => sharp(photo.data, raw).recomb(DIMMER).raw().toBuffer(),
  ],
  [
    'haze of a new sky, 12 MP',
    null,
    () => composeRegion(hazy, whole),
    'sharp recomb',
    () => sharp(photo.data, raw).recomb(DIMMER).raw().toBuffer(),
  ],
  [
    'a new sky in the water, 12 MP',
    null,
    () => composeRegion(mirroring, whole),
    'sharp recomb',
    () => sharp(photo.data, raw).recomb(DIMMER).raw().toBuffer(),
  ],
  ...threadRows(photo, large, softMatte),
]

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]
const time = async (work: Work) => {
  const started = performance.now()
  await work()
  return performance.now() - started
}

const wanted = process.argv.slice(2)
console.log(`12-megapixel picture, medians of ${ROUNDS} rounds, in turn\n`)
console.log(`${'row'.padEnd(32)}${'ours'.padStart(9)}${'reference'.padStart(12)}${'ratio'.padStart(9)}   to reach`)
for (const [name, target, ours, reference, theirs] of rows) {
  if (wanted.length && !wanted.some((w) => name.includes(w))) continue
  const slow = /grabCut|textbook|edge/.test(reference) // seconds a round
  for (let i = 0; i < (slow ? 1 : 4); i++) await ours() // the compiler finds what is hot; the reference is compiled already
  await theirs()
  const a: number[] = [],
    b: number[] = []
  for (let round = 0; round < (slow ? 3 : ROUNDS); round++) {
    a.push(await time(ours))
    b.push(await time(theirs))
  }
  const ratio = median(a) / median(b)
  console.log(
    `${name.padEnd(32)}${`${median(a).toFixed(0)} ms`.padStart(9)}${`${median(b).toFixed(0)} ms`.padStart(12)}${ratio.toFixed(3).padStart(9)}   ${target === null ? '' : `≤ ${+target.toFixed(3)} ${ratio <= target ? 'reached' : 'MISSED'}`}  ${reference}`,
  )
}
