import { canonicalJson } from '../fields/canonical'
import { image as imageStep, type ImageFields } from '../steps/image'
import { type Affine, apply, compose, inverse, meanScale, rotation, scaling, translation } from '../raster/affine'
import { mattePyramid } from '../raster/levels'
import { emptyMatte, type Matte, type Picture } from '../raster/picture'
import { sampleCoverageRow } from '../raster/sampleRow'
import { type Finder, type Scene } from './finder'

/** A step names a picture that is not there. */
export class NoSuchPicture extends Error {}

/** Rec. 709 luma of encoded values, times alpha; or alpha. */
export function coverageOf(picture: Picture, use: 'luminance' | 'alpha'): Matte {
  const { width, height, data } = picture,
    out = new Uint8Array(width * height)
  for (let i = 0, o = 0; o < out.length; i += 4, o++)
    out[o] =
      use === 'alpha'
        ? data[i + 3]
        : Math.round(((0.2126 * data[i] + 0.7152 * data[i + 1] + 0.0722 * data[i + 2]) * data[i + 3]) / 255)
  return { width, height, data: out }
}

/** Throws NoSuchPicture. */
export function pictureOf(scene: Scene, asset: string): Picture {
  const found = scene.image?.(asset)
  if (!found)
    throw new NoSuchPicture(
      `The mask picture ${/^[0-9a-f]{64}$/.test(asset) ? `${asset.slice(0, 8)}…` : `“${asset}”`} is not here.`,
    )
  return found
}

/** From the picture's pixels to the canvas's. */
function placed({ fit, x, y, scale, rotation: turn }: ImageFields, picture: Picture, scene: Scene): Affine {
  const base: Affine =
    fit === 'none'
      ? [1, 0, 0, 1, 0, 0]
      : fit === 'layer' && scene.active
        ? compose(
            scene.active.placement,
            scaling(scene.active.width / picture.width, scene.active.height / picture.height),
          )
        : scaling(scene.width / picture.width, scene.height / picture.height)
  const middle = apply(base, picture.width / 2, picture.height / 2)
  const about = compose(
    translation(middle[0] + x, middle[1] + y),
    compose(rotation(turn), compose(scaling(scale), translation(-middle[0], -middle[1]))),
  )
  return compose(about, base)
}

/** A matte from a picture file: bright is selected, or what is opaque. */
export const image: Finder<'image', ImageFields> = {
  ...imageStep,
  dependsOn: (scene, { fit }) => (fit === 'layer' ? canonicalJson(scene.active ?? null) : ''),
  find(scene, params, context) {
    const picture = pictureOf(scene, params.asset)
    const key = `image ${params.asset} ${params.use}`
    let levels = context.memory.get<Matte[]>(key)
    if (!levels) {
      levels = mattePyramid(coverageOf(picture, params.use))
      context.memory.set(
        key,
        levels,
        levels.reduce((sum, level) => sum + level.data.byteLength, 0),
      )
    }
    const matte = emptyMatte(scene),
      row = new Float32Array(scene.width),
      outside = params.outside === 'shown' ? 255 : 0
    let toPicture: Affine
    try {
      toPicture = inverse(placed(params, picture, scene))
    } catch {
      matte.data.fill(outside)
      return matte
    } // a layer without area has nothing to lie on
    const level = Math.min(levels.length - 1, Math.max(0, Math.round(Math.log2(meanScale(toPicture)))))
    const map = compose(scaling(1 / 2 ** level), toPicture)
    for (let y = 0; y < scene.height; y++) {
      if (y % 64 === 0) context.check(y / scene.height)
      if (!sampleCoverageRow(levels[level], map, y, row, outside)) row.fill(outside / 255)
      for (let x = 0, i = y * scene.width; x < scene.width; x++, i++) matte.data[i] = row[x] * 255 + 0.5
    }
    return matte
  },
}
