/** Picking, composing, resizing and drawing beside reference libraries. */
import sharp from 'sharp'
import { composeRegion } from '@/core/compose/composeRegion'
import { resize } from '@/core/raster/resize'
import { gaussianBlur } from '@/core/raster/gaussian'
import { paintStrokes } from '@/core/raster/brush'
import { grow } from '@/core/raster/grow'
import { rotation } from '@/core/raster/affine'
import { transform } from '@/core/select/modifiers/transform'
import { emptyMatte } from '@/core/raster/picture'
import { matteSubpaths } from '@/core/vector/fitCurves'
import { traceMatte } from '@/core/vector/trace'
import { plainContext } from '@/core/select/onePicture'
import { polygon } from '@/core/select/polygon'
import { palette } from '@/core/select/palette'
import { similarColour } from '@/core/select/similarColour'
import {
  cv,
  WIDTH,
  HEIGHT,
  photo,
  rgb,
  scene,
  pick,
  context,
  matte,
  matteMat,
  hard,
  hardMat,
  out,
  disc,
  opencvFlood,
  prepared,
  tick,
  whole,
  blurredBy,
  placed,
  multiplied,
  withAlpha,
  raw,
  outline,
  outlines,
  canvasMat,
  brush,
  dabs,
  colours,
  lab,
  inRange,
  low,
  high,
  opencvContours,
} from './photo'
import { type Row } from './row'

const turned = rotation(17, WIDTH / 2, HEIGHT / 2),
  [a, b, c, d, e, f] = turned,
  turnedMat = cv.matFromArray(2, 3, cv.CV_64F, [a, c, e, b, d, f])

export const rowsOfPixels: Row[] = [
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
    () => similarColour.find(scene, { ...pick, tolerance: 24 + (tick() % 16) }, prepared),
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
  [
    'the selection turned by 17°',
    null,
    () => transform.modify(matte, { matrix: turned }, context, scene),
    'opencv-js warpAffine',
    () => cv.warpAffine(matteMat, out, turnedMat, new cv.Size(matte.width, matte.height)),
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
  ['contour of a matte', 2, () => traceMatte(matte), 'opencv-js findContours', () => opencvContours(hardMat)],
  [
    'contour as Bézier path',
    null,
    () => matteSubpaths(matte, 0.7),
    'opencv-js findContours',
    () => opencvContours(hardMat),
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
]
