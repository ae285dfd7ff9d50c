/** The 12-megapixel photo that most rows work on, what is picked and laid over it, and the same for OpenCV. */
import sharp from 'sharp'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type BlendMode } from '@/core/compose/modes'
import { type Node } from '@/core/compose/nodes'
import { IDENTITY } from '@/core/raster/affine'
import { picturePyramid } from '@/core/raster/levels'
import { type Matte, type Picture } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { similarColour, warm } from '@/core/select/similarColour'
import { openCv } from './opencv'

export const WIDTH = 4242,
  HEIGHT = 2828 // 12 megapixels
export const ROUNDS = 7
export const { cv } = await openCv()

export const { data } = await sharp('demo/pictures/otter-puppet-24mp.jpg')
  .resize(WIDTH, HEIGHT)
  .ensureAlpha()
  .raw()
  .toBuffer({ resolveWithObject: true })
export const photo: Picture = {
  width: WIDTH,
  height: HEIGHT,
  data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
}
export const rgb = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC3)
for (let i = 0, o = 0; i < photo.data.length; i += 4) {
  rgb.data[o++] = photo.data[i]
  rgb.data[o++] = photo.data[i + 1]
  rgb.data[o++] = photo.data[i + 2]
}

export const scene = sceneOf(photo)
export const withSky = sceneOf(
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
export const upperPart: Matte = {
  width: WIDTH,
  height: HEIGHT,
  data: new Uint8Array(WIDTH * HEIGHT).fill(255, 0, WIDTH * Math.round(0.3 * HEIGHT)),
}
export const AT = [310, 760] as const,
  TOLERANCE = 34
export const pick = {
  at: AT,
  tolerance: TOLERANCE,
  contiguous: true,
  patch: 1 as const,
  metric: 'channel' as const,
  antialias: true,
  sample: 'all' as const,
}
// As in the application: a picture that is open has its run extremes.
export const context = plainContext()
warm(scene, 'all', context)
export const found = similarColour.find(scene, pick, context)
export const matte: Matte = { width: WIDTH, height: HEIGHT, data: found.data.slice() }
export const matteMat = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC1)
matteMat.data.set(matte.data)
export const hard: Matte = { ...matte, data: matte.data.map((v) => (v > 127 ? 255 : 0)) }
export const hardMat = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC1)
hardMat.data.set(hard.data)
export const out = new cv.Mat()
export const disc = cv.getStructuringElement(cv.MORPH_ELLIPSE, new cv.Size(41, 41))
export const opencvContours = (mat: typeof hardMat) => {
  const contours = new cv.MatVector(),
    tree = new cv.Mat()
  cv.findContours(mat, contours, tree, cv.RETR_CCOMP, cv.CHAIN_APPROX_NONE)
  contours.delete()
  tree.delete()
}
export const opencvFlood = () => {
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
export const prepared = plainContext()
for (const step of similarColour.prepare!(scene, pick, prepared)) void step
let count = 0
/** Another number each time. */
export const tick = () => count++

export const over: Picture = { ...photo, data: photo.data.slice() }
export const twoLayers = (blend: BlendMode): Node[] => [
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
export const whole = { level: 0, x: 0, y: 0, width: WIDTH, height: HEIGHT }
export const blurredBy = (radius: number): Node[] => [
  twoLayers('normal')[0],
  { kind: 'adjust', adjustment: parseAdjustment({ kind: 'discBlur', radius }), opacity: 1 },
]
export const relit: Node[] = [
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
export type Four = [number, number, number, number]
export const DIMMER: [Four, Four, Four, Four] = [
  [0.9, 0, 0, 0],
  [0, 0.7, 0, 0],
  [0, 0, 0.5, 0],
  [0, 0, 0, 1],
]
export const skyLayer = (values: object): Node[] => [
  twoLayers('normal')[0],
  { kind: 'adjust', adjustment: parseAdjustment(values), opacity: 1, key: JSON.stringify(values) },
]
export const hazy = skyLayer({
    kind: 'haze',
    amount: 0.2,
    had: 0.2,
    was: [0.7, 0.7, 0.7],
    air: [0.8, 0.5, 0.3],
    patch: 240,
  }),
  mirroring = skyLayer({ kind: 'reflection', horizon: 1400, blur: 80, was: [0.7, 0.7, 0.7] })
export const placed = twoLayers('normal'),
  multiplied = twoLayers('multiply')
export const withAlpha = Buffer.from(photo.data)
for (let i = 0; i < matte.data.length; i++) withAlpha[i * 4 + 3] = matte.data[i]
export const raw = { raw: { width: WIDTH, height: HEIGHT, channels: 4 as const } }

export const outline = Array.from({ length: 10_000 }, (_, i): [number, number] => {
  const a = (i / 10_000) * 2 * Math.PI,
    r = 1000 + 150 * Math.sin(23 * a) + 8 * Math.sin(700 * a)
  return [WIDTH / 2 + r * Math.cos(a), HEIGHT / 2 + r * Math.sin(a)]
})
export const outlineMat = cv.matFromArray(
  outline.length,
  1,
  cv.CV_32SC2,
  outline.flatMap(([x, y]) => [Math.round(x * 16), Math.round(y * 16)]),
)
export const outlines = new cv.MatVector()
outlines.push_back(outlineMat)
export const canvasMat = cv.Mat.zeros(HEIGHT, WIDTH, cv.CV_8UC1)
// One stroke back and forth over the picture, its thousand dabs 60 px apart.
export const zigzag = Array.from({ length: 16 }, (_, i): [number, number][] => [
  [200, 150 + i * 160],
  [3950, 150 + i * 160],
]).flatMap((line, i) => (i % 2 ? line.reverse() : line))
export const brush = {
  points: zigzag,
  size: 200,
  hardness: 0.3,
  strength: 1,
  spacing: 0.3,
  tip: 'round' as const,
  erase: false,
}
export const dabs = Array.from({ length: 1000 }, (_, i): [number, number] => [
  200 + ((i * 60) % 3750),
  150 + Math.floor((i * 60) / 3750) * 160,
])
export const colours = [
  [159, 156, 185],
  [120, 70, 40],
  [40, 110, 120],
] as const
export const lab = new cv.Mat(),
  inRange = new cv.Mat()
export const low = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC3, new cv.Scalar(120, 110, 100, 0)),
  high = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC3, new cv.Scalar(200, 150, 140, 0))
