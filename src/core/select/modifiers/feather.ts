import { feather as featherStep } from '../../steps/modifiers/feather'
import { gaussianBlur } from '../../raster/gaussian'
import { type Matte } from '../../raster/picture'
import { type Modifier } from '../finder'

/** Gaussian of sigma radius/2: about 95 % of the change of a straight edge lies within ±radius px. */
export const featherMatte = (matte: Matte, radius: number): Matte => gaussianBlur(matte, radius / 2)

/** Softens the edge; `radius` in px. */
export const feather: Modifier<'feather', { radius: number }> = {
  ...featherStep,
  modify: (matte, { radius }) => featherMatte(matte, radius),
}
