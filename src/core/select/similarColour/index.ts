/**
 * Similar: the pixels whose colour is near the one picked, connected to it or everywhere.
 *
 * The first answer is a flood. `prepare` then finds, for every pixel, the smallest tolerance at which it joins; from there on a
 * change of tolerance is a threshold, and the tolerance curve is a histogram.
 */
import { flag, number, oneOf, point } from '../fields'
import { type Context, type Finder, type Sample, type Scene } from '../finder'
import { colourDistance, type Metric, patchColour } from './distance'
import { flood } from './flood'
import { joinCosts, within } from './joinCost'
import { softenEdge } from './softenEdge'

export interface SimilarColourFields {
  /** Where the colour is picked, px. Outside the canvas it finds nothing. */
  at: readonly [number, number]
  /** 0-255. */
  tolerance: number
  contiguous: boolean
  /** Side of the square whose mean colour is picked, px. */
  patch: 1 | 3 | 5
  metric: Metric
  antialias: boolean
}
type Params = SimilarColourFields & { sample: Sample }

const pickKey = (scene: Scene, { at, patch, metric, sample }: Params) => `similarColour ${scene.identity(sample)} ${Math.floor(at[0])},${Math.floor(at[1])} ${patch} ${metric}`
const distanceKey = (scene: Scene, params: Params) => `${pickKey(scene, params)} distance`
const costKey = (scene: Scene, params: Params) => (params.contiguous ? `${pickKey(scene, params)} cost` : distanceKey(scene, params))

function pickedPixel(scene: Scene, { at }: Params): [number, number] | null {
  const x = Math.floor(at[0]), y = Math.floor(at[1])
  return x >= 0 && y >= 0 && x < scene.width && y < scene.height ? [x, y] : null
}

function distances(scene: Scene, params: Params, x: number, y: number, { memory }: Context): Uint8Array {
  const key = distanceKey(scene, params)
  const known = memory.get<Uint8Array>(key)
  if (known) return known
  const picture = scene.picture(params.sample)
  const made = colourDistance(picture, patchColour(picture, x, y, params.patch), params.metric)
  memory.set(key, made, made.byteLength)
  return made
}

/** For each pixel the smallest tolerance at which it joins, once `prepare` has made it. */
export const knownCosts = (scene: Scene, params: Params, { memory }: Context): Uint8Array | undefined => memory.get(costKey(scene, params))

export const similarColour: Finder<'similarColour', SimilarColourFields> = {
  kind: 'similarColour',
  finds: true,
  looksAtPixels: true,
  fields: { at: point(), tolerance: number(0, 255, 32), contiguous: flag(true), patch: oneOf([1, 3, 5] as const, 1), metric: oneOf(['channel', 'perceptual'] as const, 'channel'), antialias: flag(true) },
  find(scene, params, context) {
    const { width, height } = scene
    const pixel = pickedPixel(scene, params)
    if (!pixel) return { width, height, data: new Uint8Array(width * height) }
    const costs = knownCosts(scene, params, context)
    let data: Uint8Array
    if (costs) data = within(costs, params.tolerance)
    else {
      const distance = distances(scene, params, ...pixel, context)
      context.check(0.4)
      data = params.contiguous ? flood(distance, scene, ...pixel, params.tolerance) : within(distance, params.tolerance)
    }
    context.check(0.7)
    if (params.antialias) softenEdge(data, scene.picture(params.sample))
    return { width, height, data }
  },
  *prepare(scene, params, context) {
    const pixel = pickedPixel(scene, params)
    if (!pixel || !params.contiguous || knownCosts(scene, params, context)) return
    const costs = yield* joinCosts(distances(scene, params, ...pixel, context), scene, ...pixel)
    context.memory.set(costKey(scene, params), costs, costs.byteLength)
  },
}
