/** What the rows about subjects and their edges work on. */
import '@/core/network/withAllWeights'
import sharp from 'sharp'
import { grow } from '@/core/raster/grow'
import { picturePyramid } from '@/core/raster/levels'
import { type Matte, type Picture } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { polygon } from '@/core/select/polygon'
import { roughBox } from '@/core/select/roughBox'
import { edge } from '@/core/select/modifiers/edge'
import { ribbonPicture, unroll } from '@/core/edge/ribbon'
import { solveUnknown } from '@/core/matting/solveUnknown'
import { traceMatte } from '@/core/vector/trace'
import { textbookClosedForm } from './textbook'
import { cv, WIDTH, HEIGHT, photo, rgb, scene, tick, raw } from './photo'

// By object, on a picture of 1500 × 1000 and on the 12 megapixels.
export const SMALL = { width: 1500, height: 1000 },
  smallPhoto: Picture = {
    ...SMALL,
    data: new Uint8ClampedArray(
      await sharp(photo.data, raw).resize(SMALL.width, SMALL.height, { fit: 'fill' }).raw().toBuffer(),
    ),
  },
  smallScene = sceneOf(smallPhoto)
export const smallRgb = new cv.Mat(SMALL.height, SMALL.width, cv.CV_8UC3)
for (let i = 0, o = 0; i < smallPhoto.data.length; i += 4) {
  smallRgb.data[o++] = smallPhoto.data[i]
  smallRgb.data[o++] = smallPhoto.data[i + 1]
  smallRgb.data[o++] = smallPhoto.data[i + 2]
}
export const roughly = { analyse: true, smoothEdge: true, sample: 'all' as const, box: [200, 40, 1340, 980] as const }
/** A dozen anchors round what that box finds, px of the 12 megapixels. */
const [around] = traceMatte(roughBox.find(smallScene, roughly, plainContext())).sort((a, b) => b.length - a.length)
export const anchors = Array.from({ length: 12 }, (_, k) => {
  const i = 2 * Math.floor((k * around.length) / 24)
  return [(around[i] * WIDTH) / SMALL.width, (around[i + 1] * HEIGHT) / SMALL.height] as const
})
export const grabCut = () => {
  const mask = new cv.Mat(),
    inside = new cv.Mat(),
    outside = new cv.Mat()
  cv.grabCut(smallRgb, mask, new cv.Rect(200, 40, 1140, 940), inside, outside, 5, cv.GC_INIT_WITH_RECT)
  for (const each of [mask, inside, outside]) each.delete()
}
export const WINDOW = { x: 1600, y: 900, width: 1000, height: 1000 },
  windowMat = rgb.roi(new cv.Rect(WINDOW.x, WINDOW.y, WINDOW.width, WINDOW.height)).clone()
export const scissors = new cv.segmentation_IntelligentScissorsMB()
scissors.applyImage(windowMat)
export const wireLevels = picturePyramid(photo, true)

// The edge: what lies within 16 px of the true edge of the woolly puppet is unknown, at 1500 × 1000.
export const trueMatte: Matte = {
  ...SMALL,
  data: new Uint8Array(
    await sharp('tests/fixtures/otter-puppet-matte.png')
      .extractChannel(0)
      .resize(SMALL.width, SMALL.height, { fit: 'fill' })
      .raw()
      .toBuffer(),
  ),
}
export const wide = grow({ ...trueMatte, data: trueMatte.data.map((v) => (v > 10 ? 255 : 0)) }, 16),
  narrow = grow({ ...trueMatte, data: trueMatte.data.map((v) => (v > 245 ? 255 : 0)) }, -16),
  unknown = wide.data.map((v, i) => (v > 127 && narrow.data[i] < 128 ? 1 : 0)),
  known = trueMatte.data.map((v, i) => (unknown[i] ? 128 : v))
export const solveEdge = () =>
  solveUnknown(smallPhoto, { ...SMALL, data: known.slice() }, unknown, 'closedForm', { check: () => {} })
export const textbook = () =>
  textbookClosedForm(
    smallPhoto,
    unknown,
    Float64Array.from(known, (v) => v / 255),
  )
export const edgeValues = {
    reach: 12,
    follow: true,
    smooth: 0,
    feather: 0,
    crispness: 0,
    offset: 0,
    solver: 'closedForm' as const,
  },
  edgeContext = plainContext(1 << 28)
export const soft: Matte = { ...SMALL, data: trueMatte.data.map((v) => (v > 127 ? 255 : 0)) },
  strokeAt = (k: number) => ({
    points: [
      [420 + k, 200],
      [440 + k, 160],
    ] as const,
    size: 60,
    mode: 'unsure' as const,
  })
edge.modify({ ...soft, data: soft.data.slice() }, { ...edgeValues, strokes: [] }, edgeContext, smallScene)
export const stroke = () =>
  edge.modify(
    { ...soft, data: soft.data.slice() },
    { ...edgeValues, strokes: [strokeAt(tick() % 100)] },
    edgeContext,
    smallScene,
  )
export const large: Matte = {
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
export const softMatte: Matte = {
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
export const starOutline = Array.from({ length: 4000 }, (_, i): [number, number] => {
    const a = (i / 4000) * 2 * Math.PI,
      r = 900 + 420 * Math.sin(11 * a)
    return [WIDTH / 2 + r * Math.cos(a), HEIGHT / 2 + r * Math.sin(a)]
  }),
  star = polygon.find(scene, { points: starOutline, antialias: true, sample: 'all' }, plainContext())
export const ribbonOf = () => {
  const ribbon = unroll(star)
  ribbonPicture(ribbon, photo, star, { from: 4000, step: 1, width: 1280, height: 92, backing: 'checks' })
  return ribbon
}
