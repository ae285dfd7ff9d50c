/** Against OpenCV 4.12 (@techstark/opencv-js): the same sets of pixels, the same distances, the same blur. */
import sharp from 'sharp'
import { beforeAll, describe, expect, it } from 'vitest'
import { gaussianBlur } from '@/core/raster/gaussian'
import { grow } from '@/core/raster/grow'
import { nearestSetPixels } from '@/core/raster/distance'
import { type Matte, type Picture } from '@/core/raster/picture'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { similarColour } from '@/core/select/similarColour'
import { type OpenCv, openCv } from '../../bench/opencv'

const WIDTH = 600,
  HEIGHT = 400
let cv: OpenCv, photo: Picture

beforeAll(async () => {
  cv = (await openCv()).cv
  const data = await sharp('demo/pictures/otter-puppet.jpg').resize(WIDTH, HEIGHT).ensureAlpha().raw().toBuffer()
  photo = { width: WIDTH, height: HEIGHT, data: new Uint8ClampedArray(data) }
})

const mat = (matte: Matte) => {
  const m = new cv.Mat(matte.height, matte.width, cv.CV_8UC1)
  m.data.set(matte.data)
  return m
}
/** The otter, roughly: a matte with holes, hair and a straight side. */
const shape = (): Matte => ({
  width: WIDTH,
  height: HEIGHT,
  data: Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => (photo.data[i * 4] > photo.data[i * 4 + 2] ? 255 : 0)),
})

describe('against opencv', () => {
  it.each([
    [40, 100, 12],
    [40, 100, 34],
    [560, 300, 25],
    [300, 120, 40],
    [0, 0, 0],
    [599, 399, 255],
  ])(
    'a similar pick at %i, %i with tolerance %i is floodFill with a fixed range, pixel for pixel',
    (x, y, tolerance) => {
      const rgb = new cv.Mat(HEIGHT, WIDTH, cv.CV_8UC3)
      for (let i = 0; i < WIDTH * HEIGHT; i++) for (let c = 0; c < 3; c++) rgb.data[i * 3 + c] = photo.data[i * 4 + c]
      const mask = cv.Mat.zeros(HEIGHT + 2, WIDTH + 2, cv.CV_8UC1),
        t = new cv.Scalar(tolerance, tolerance, tolerance, 0)
      cv.floodFill(
        rgb,
        mask,
        new cv.Point(x, y),
        new cv.Scalar(0, 0, 0, 0),
        new cv.Rect(),
        t,
        t,
        4 | (255 << 8) | cv.FLOODFILL_FIXED_RANGE | cv.FLOODFILL_MASK_ONLY,
      )
      const params = {
        at: [x + 0.5, y + 0.5] as const,
        tolerance,
        contiguous: true,
        patch: 1 as const,
        metric: 'channel' as const,
        antialias: false,
        sample: 'all' as const,
      }
      const context = plainContext(),
        first = similarColour.find(sceneOf(photo), params, context)
      for (const step of similarColour.prepare!(sceneOf(photo), params, context)) void step
      const prepared = similarColour.find(sceneOf(photo), params, context)
      let different = 0
      for (let j = 0; j < HEIGHT; j++)
        for (let i = 0; i < WIDTH; i++) {
          const reference = mask.data[(j + 1) * (WIDTH + 2) + i + 1]
          if (first.data[j * WIDTH + i] !== reference || prepared.data[j * WIDTH + i] !== reference) different++
        }
      expect(different).toBe(0)
    },
  )
  it('the distance to the nearest set pixel is distanceTransform (exact, DIST_MASK_PRECISE) within 0.001 px', () => {
    const matte = shape(),
      out = new cv.Mat()
    cv.distanceTransform(mat({ ...matte, data: matte.data.map((v) => 255 - v) }), out, cv.DIST_L2, cv.DIST_MASK_PRECISE)
    let worst = 0
    nearestSetPixels(matte.data, matte, 1e4, (y, nearest) =>
      nearest.forEach((seed, x) => {
        worst = Math.max(
          worst,
          Math.abs(Math.hypot(x - (seed % WIDTH), y - Math.floor(seed / WIDTH)) - out.data32F[y * WIDTH + x]),
        )
      }),
    )
    expect(worst).toBeLessThan(0.001)
  })
  it('growing by a whole distance covers fully just what dilate with a Euclidean disc covers', () => {
    const matte = shape(),
      out = new cv.Mat()
    for (const by of [1, 3, 7]) {
      const side = 2 * by + 1,
        disc = cv.Mat.zeros(side, side, cv.CV_8UC1)
      for (let y = 0; y < side; y++)
        for (let x = 0; x < side; x++) disc.data[y * side + x] = Math.hypot(x - by, y - by) <= by ? 1 : 0
      cv.dilate(mat(matte), out, disc)
      const grown = grow(matte, by).data
      let different = 0
      for (let i = 0; i < grown.length; i++) if ((grown[i] === 255) !== (out.data[i] === 255)) different++
      expect(different).toBe(0)
    }
  })
  it.each([1, 2.5, 4, 6, 10, 25, 40])(
    'Gaussian blur with sigma %s is GaussianBlur within 2/255 (edges repeated)',
    (sigma) => {
      const matte = shape(),
        out = new cv.Mat()
      cv.GaussianBlur(
        mat(matte),
        out,
        new cv.Size(2 * Math.ceil(4.5 * sigma) + 1, 2 * Math.ceil(4.5 * sigma) + 1),
        sigma,
        sigma,
        cv.BORDER_REPLICATE,
      )
      const blurred = gaussianBlur(matte, sigma).data
      let worst = 0
      for (let i = 0; i < blurred.length; i++) worst = Math.max(worst, Math.abs(blurred[i] - out.data[i]))
      expect(worst).toBeLessThanOrEqual(2)
    },
  )
})
