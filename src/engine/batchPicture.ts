/** A batch's plan on one of its pictures; the server's workers and the command line ask alike. */
import { cutOut, layOver } from '@/core/compose/cutOut'
import { scaledSteps, stepsOnCanvas } from '@/core/formats/scaleSteps'
import { type Crew } from '@/core/parallel/crew'
import { IDENTITY } from '@/core/raster/affine'
import { cropPicture } from '@/core/raster/crop'
import { type Matte, type Picture, type Size } from '@/core/raster/picture'
import { boundsOf, tallyOf } from '@/core/raster/tally'
import { reduced } from '@/core/raster/reduce'
import { resize } from '@/core/raster/resize'
import { type Context } from '@/core/select/finder'
import { sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { type Step } from '@/core/steps/registry'
import { type BatchPlan } from '@/document/batchPlan'

export interface BatchSources {
  /** Pictures that steps name. */
  readonly images?: ReadonlyMap<string, Picture>
  /** What lies behind, opaque, in the size that is asked for. */
  readonly backdrop?: (size: Size) => Promise<Picture>
}
export interface BatchResult {
  readonly picture: Picture
  readonly matte: Matte
  /** The share selected, 0-1. */
  readonly selected: number
  /** How unsure the matte is, 0-1. */
  readonly doubt: number
  /** What steps said of what they found. */
  readonly notes: readonly string[]
}

/** @param context without `stepDone`; its `check` is told the progress of the whole, 0-1 */
export async function batchPicture(
  photo: Picture,
  plan: BatchPlan,
  { images, backdrop }: BatchSources,
  context: Context,
  crew?: Crew,
): Promise<BatchResult> {
  const { output } = plan,
    notes: string[] = []
  const part = (from: number, to: number): Context => ({
    ...context,
    crew,
    check: (progress) => context.check(from + (to - from) * progress),
  })
  const steps = stepsOnCanvas(plan.steps, plan.canvas ?? photo, photo),
    matte = foldSteps(steps, sceneOf(photo, 'picture', images), {
      ...part(0, 0.6),
      stepDone: (_, kind, _ms, _remembered, note) => {
        if (note) notes.push(`${kind}: ${note}`)
      },
    }),
    doubt = doubtOf(photo, matte, steps, images, part(0.6, 0.75))
  let picture: Picture
  if (output.what === 'matte') picture = greyOf(matte)
  else {
    picture = cutOut(
      photo,
      { levels: [matte], toCanvas: IDENTITY },
      { amount: output.fringe, rim: output.rim },
      part(0.75, 0.95).check,
      crew,
    )
    if (backdrop) {
      const below = await backdrop(photo)
      layOver(below, picture)
      picture = below
    }
  }
  const bounds = output.trim ? boundsOf(matte) : null
  if (bounds) picture = cropPicture(picture, bounds)
  return { picture: reduced(picture, output.longest), matte, selected: tallyOf(matte).selected, doubt, notes }
}

/** How much is cut off at each side, and what is left of the size, where a picture is looked at again. */
const CUT = 0.06,
  SMALLER = 0.6

/**
 * How unsure a matte is: what selects the same on a smaller picture without its margins should come to the same. 1 − intersection over union of the
 * two, soft pixels counted as what they cover; 0 where nothing is selected either way. How well it tells bad results from good ones: docs/QUALITY.md.
 * Pictures that steps name cover the canvas, and what is picked in a margin would be lost: then no margins are cut off.
 */
export function doubtOf(
  photo: Picture,
  matte: Matte,
  steps: readonly Step[],
  images: ReadonlyMap<string, Picture> | undefined,
  context: Context,
): number {
  const cut = steps.some((step) => 'asset' in step || picksOf(step).some((at) => isInMargin(at, photo))) ? 0 : CUT,
    left = Math.round(photo.width * cut),
    top = Math.round(photo.height * cut),
    box = { x: left, y: top, width: photo.width - 2 * left, height: photo.height - 2 * top },
    size: Size = { width: Math.ceil(box.width * SMALLER), height: Math.ceil(box.height * SMALLER) },
    x = size.width / box.width,
    y = size.height / box.height
  const small = resize(cropPicture(photo, box), size),
    again = foldSteps(scaledSteps(steps, { x, y, left: -left * x, top: -top * y }), sceneOf(small, 'again', images), {
      ...context,
      costly: undefined,
    }),
    expected = resize(cropPicture(greyOf(matte), box), size).data
  let both = 0,
    either = 0
  for (let i = 0; i < again.data.length; i++) {
    both += Math.min(again.data[i], expected[i * 4])
    either += Math.max(again.data[i], expected[i * 4])
  }
  return either === 0 ? 0 : 1 - both / either
}

type Place = readonly [number, number]
/** Where a step looks at the picture: the places and strokes by which it is told what is meant. */
function picksOf(step: Step): readonly Place[] {
  const { at, anchors, strokes, keep, drop } = step as {
    readonly at?: Place | readonly Place[]
    readonly anchors?: readonly Place[]
  } & Readonly<Partial<Record<'strokes' | 'keep' | 'drop', readonly { readonly points: readonly Place[] }[] | boolean>>>
  const inStrokes = [strokes, keep, drop].flatMap((some) =>
    Array.isArray(some) ? (some as { readonly points: readonly Place[] }[]).flatMap(({ points }) => points) : [],
  )
  const single = at && typeof at[0] === 'number' ? [at as Place] : ((at as readonly Place[] | undefined) ?? [])
  return [...single, ...(anchors ?? []), ...inStrokes]
}
const isInMargin = ([x, y]: Place, { width, height }: Size): boolean =>
  x < width * CUT || y < height * CUT || x > width * (1 - CUT) || y > height * (1 - CUT)

function greyOf({ width, height, data }: Matte): Picture {
  const grey = new Uint8ClampedArray(width * height * 4)
  for (let i = 0; i < data.length; i++) {
    grey[i * 4] = grey[i * 4 + 1] = grey[i * 4 + 2] = data[i]
    grey[i * 4 + 3] = 255
  }
  return { width, height, data: grey }
}
