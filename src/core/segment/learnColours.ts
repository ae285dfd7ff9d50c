/** The colours of what is inside and outside of a cut, learnt from its pixels. */
import { type LabPlanes } from './labPlanes'
import { fitMixture, type Mixture, withShadows } from './mixture'

const INSIDE_COMPONENTS = 5,
  OUTSIDE_COMPONENTS = 7
/** Colours are learnt from about so many pixels. */
export const SAMPLES = 10_000

export interface Models {
  readonly inside: Mixture
  readonly outside: Mixture
}

/** Learns colours from weighted pixels, about so many of them. */
function learnColours(lab: LabPlanes, weight: Float32Array, components: number, most = SAMPLES): Mixture {
  let count = 0
  for (let i = 0; i < weight.length; i++) if (weight[i] > 0.02) count++
  const step = Math.max(1, Math.floor(count / most)),
    taken = Math.ceil(count / step),
    samples = new Float32Array(3 * taken),
    weights = new Float32Array(taken)
  for (let i = 0, seen = 0, n = 0; i < weight.length; i++) {
    if (weight[i] <= 0.02 || seen++ % step !== 0) continue
    samples[n] = lab.L[i]
    samples[taken + n] = lab.a[i]
    samples[2 * taken + n] = lab.b[i]
    weights[n++] = weight[i]
  }
  return fitMixture(samples, weights, components)
}

/** The colours of what is inside and of what is outside, by the weights of the pixels, 0-1. */
export function learnBoth(lab: LabPlanes, inside: Float32Array, outside: Float32Array, most = SAMPLES): Models {
  return {
    inside: learnColours(lab, inside, INSIDE_COMPONENTS, most),
    outside: learnColours(lab, outside, OUTSIDE_COMPONENTS, most),
  }
}

/** The same of a thing and of what lies around it, on which it may throw a shadow. */
export function learnThing(lab: LabPlanes, inside: Float32Array, around: Float32Array, most = SAMPLES): Models {
  const { outside, ...models } = learnBoth(lab, inside, around, most)
  return { ...models, outside: withShadows(outside) }
}
