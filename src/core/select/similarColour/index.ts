/**
 * Similar: the pixels whose colour is near the one picked, connected to it or everywhere.
 *
 * The first answer is a flood. `prepare` then puts all pixels in the order in which they join as the tolerance grows; from there on
 * a change of tolerance touches only the pixels between the two, and the tolerance curve comes free.
 */
import { similarColour as similarColourStep, type SimilarColourFields } from '../../steps/similarColour'
import { type Context, type Finder, type Scene } from '../finder'
import { type Sample } from '../../steps/step'
import { colourDistance, patchColour } from './distance'
import { fittingTolerance as fitted } from './fittingTolerance'
import { type Flooded, floodColour, floodDistance } from './flood'
import { connectedOrder, distanceOrder } from './joinOrder'
import { LivePick } from './livePick'
import { hardened } from '../../raster/edgeMarks'
import { runExtremes, type RunExtremes } from './runExtremes'
import { softenEdge } from '../../raster/softenEdge'
import { type Picture, words } from '../../raster/picture'

type Params = SimilarColourFields & { sample: Sample }

/** Everything a pick's preparation depends on: the values that it makes immediate are not among them. */
const pickKey = (scene: Scene, { at, patch, metric, sample, contiguous }: Params): string =>
  `similarColour ${scene.identity(sample)} ${Math.floor(at[0])},${Math.floor(at[1])} ${patch} ${metric} ${contiguous ? 'connected' : 'everywhere'}`

function pickedPixel(scene: Scene, { at }: Params): [number, number] | null {
  const x = Math.floor(at[0]),
    y = Math.floor(at[1])
  return x >= 0 && y >= 0 && x < scene.width && y < scene.height ? [x, y] : null
}

/** The prepared pick, once `prepare` has made it. */
export const preparedPick = (scene: Scene, params: Params, { memory }: Context): LivePick | undefined =>
  memory.get(pickKey(scene, params))

/** A curve is taken from so many pixels at most, evenly spread, so that it is there at once. */
const MOST_MEASURED = 300_000

/** The tolerance that a first pick at a place takes from the picture, 0-255. */
export function fittingTolerance(scene: Scene, params: Params): number {
  const pixel = pickedPixel(scene, params)
  if (!pixel) return params.tolerance
  const picture = scene.picture(params.sample),
    step = Math.max(1, Math.ceil(Math.sqrt((picture.width * picture.height) / MOST_MEASURED)))
  return fitted(everyNth(picture, step), step, patchColour(picture, ...pixel, params.patch), params)
}

/** Every so many-th pixel of every so many-th row: with its grain, which a smaller level would have lost. */
function everyNth(picture: Picture, step: number): Picture {
  if (step === 1) return picture
  const width = Math.ceil(picture.width / step),
    height = Math.ceil(picture.height / step),
    from = words(picture),
    data = new Uint8ClampedArray(width * height * 4),
    to = new Uint32Array(data.buffer)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, at = y * step * picture.width; x < width; x++, at += step) to[i++] = from[at]
  return { width, height, data }
}

function distances(scene: Scene, params: Params, x: number, y: number): Uint8Array {
  const picture = scene.picture(params.sample)
  return colourDistance(picture, patchColour(picture, x, y, params.patch), params.metric)
}

const extremesKey = (scene: Scene, sample: Sample) => `runExtremes ${scene.identity(sample)}`

/** Makes the picture's run extremes, which make first answers quicker. Done in the background when a picture is first shown. */
export function warm(scene: Scene, sample: Sample, { memory }: Context): void {
  const key = extremesKey(scene, sample)
  if (memory.get(key)) return
  const extremes = runExtremes(scene.picture(sample))
  memory.set(key, extremes, extremes.least.byteLength * 2)
}

function flooded(scene: Scene, params: Params, x: number, y: number, context: Context): Flooded {
  const picture = scene.picture(params.sample)
  const marks = blankMarks(scene, context)
  return params.metric === 'channel'
    ? floodColour(
        picture,
        patchColour(picture, x, y, params.patch),
        x,
        y,
        params.tolerance,
        marks,
        context.memory.get<RunExtremes>(extremesKey(scene, params.sample)),
      )
    : floodDistance(distances(scene, params, x, y), scene, x, y, params.tolerance, marks)
}

/** Marks to write into, used again and again: fresh memory for each answer would cost more than the flood. */
function blankMarks({ width, height }: Scene, { memory }: Context): Uint8Array {
  const key = `similarColour marks ${width * height}`
  const known = memory.get<Uint8Array>(key)
  if (known) return known.fill(0)
  const made = new Uint8Array(width * height)
  memory.set(key, made, made.byteLength)
  return made
}

export const similarColour: Finder<'similarColour', SimilarColourFields> = {
  ...similarColourStep,
  find(scene, params, context) {
    const { width, height } = scene
    const pixel = pickedPixel(scene, params)
    if (!pixel) return { width, height, data: new Uint8Array(width * height) }
    let pick = preparedPick(scene, params, context)
    if (!pick && !params.contiguous) {
      // sorting takes no longer than looking for the edge
      const work = picking(scene, params, ...pixel)
      let step = work.next()
      while (!step.done) {
        context.check(step.value)
        step = work.next()
      }
      pick = step.value
      context.memory.set(pickKey(scene, params), pick, pick.bytes)
    }
    if (pick) return { width, height, data: pick.at(params.tolerance, params.antialias), passing: 'quick' }
    const { marks, edge } = flooded(scene, params, ...pixel, context)
    context.check(0.7)
    return {
      width,
      height,
      passing: 'slow',
      data: params.antialias ? softenEdge(marks, edge, scene.picture(params.sample)) : hardened(marks, edge),
    }
  },
  *prepare(scene, params, context) {
    const pixel = pickedPixel(scene, params)
    if (
      !pixel ||
      preparedPick(scene, params, context) ||
      !context.memory.holds(PREPARED_BYTES * scene.width * scene.height)
    )
      return
    const pick = yield* picking(scene, params, ...pixel)
    pick.at(params.tolerance, params.antialias) // so that the first change is as quick as the others
    context.memory.set(pickKey(scene, params), pick, pick.bytes)
  },
}

/** What a prepared pick takes, bytes a pixel. A picture too large for the memory goes on being flooded. */
const PREPARED_BYTES = 6

function* picking(scene: Scene, params: Params, x: number, y: number): Generator<number, LivePick> {
  const distance = distances(scene, params, x, y)
  return new LivePick(
    scene.picture(params.sample),
    params.contiguous ? yield* connectedOrder(distance, scene, x, y) : yield* distanceOrder(distance),
  )
}
