import { gaussianBlur } from '../../raster/gaussian'
import { type Matte } from '../../raster/picture'
import { length } from '../../common/fields'
import { type Modifier } from '../finder'

/** Gaussian of sigma radius/2: about 95 % of the change of a straight edge lies within ±radius px. */
export const featherMatte = (matte: Matte, radius: number): Matte => gaussianBlur(matte, radius / 2)

/** Softens the edge; `radius` in px. */
export const feather: Modifier<'feather', { radius: number }> = {
  kind: 'feather',
  finds: false,
  fields: { radius: length() },
  modify: (matte, { radius }) => featherMatte(matte, radius),
}
