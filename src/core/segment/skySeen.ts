/** What the network makes of a place where its sky is looked for: where it shows sky, and where water, which tells what is none. */
import { atEachPixel, skyLikelihood } from '../network/likelihood'
import { type SegmentView } from './view'

/** Of each pixel of a view's small level, the logarithm of the odds, nats. */
export interface SkySeen {
  readonly water: Float32Array
  readonly sky: Float32Array
}

/** @param view of the whole picture */
export function skySeen({ levels }: SegmentView): SkySeen {
  const small = levels.at(-1)!,
    { water, sky } = skyLikelihood(small)
  return { water: atEachPixel(water, small, 0), sky: atEachPixel(sky, small, 0) }
}
