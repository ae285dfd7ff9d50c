/** The picture worker: decodes pictures into shared memory, runs the finders, and prepares what makes later changes immediate. */
import * as Comlink from 'comlink'
import { rarestHue } from '@/core/colour/rarestHue'
import { halfSize, halveMatte, levelCount, mattePyramid, picturePyramid } from '@/core/raster/levels'
import { contentBox } from '@/core/raster/content'
import { boundsOf, isOpaque, type Matte, type Picture, shares, type Size } from '@/core/raster/picture'
import { doubtfulSpots } from '@/core/edge/doubts'
import { foregroundColours } from '@/core/edge/foregroundColours'
import { type Ribbon, ribbonPicture, unroll } from '@/core/edge/ribbon'
import { Cancelled, type Context, type Scene } from '@/core/select/finder'
import { paletteHistogram } from '@/core/select/palette'
import { finderOf, type FindingStep, isFinding, type StepOfKind } from '@/core/select/registry'
import { pictureRegions, regionOutline, regionsHolding } from '@/core/select/regions'
import { wireOutline } from '@/core/select/liveWire'
import { thingsOf } from '@/core/segment/things'
import { quickWire } from '@/core/segment/liveWire'
import { segmentView } from '@/core/segment/view'
import { preparedPick, warm } from '@/core/select/similarColour'
import { toleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { findStep, stepNotes } from '@/core/select/steps'
import { matteSubpaths } from '@/core/vector/fitCurves'
import { pathData } from '@/core/vector/path'
import { picturesOf, sceneOfArea } from '@/document/tree'
import { type Area, type KeptScene, type LayerMask } from '@/document/types'
import { Studio } from '../studio'
import { bitmapOf, matteBitmap } from './bitmaps'
import {
  MOST_PREPARED_PIXELS,
  type PictureEvents,
  type PictureWorker,
  type SelectRequest,
  SELECT,
  type SelectResult,
  type SharedMatte,
  type SharedPicture,
  HOVER,
  RIBBON,
  TRACE,
  COUNTERS,
} from './protocol'

/** Results of steps kept: a prepared pick of up to 106 megapixels, or some twenty mattes of 24. */
const MEMORY = 6 * MOST_PREPARED_PIXELS
const STRIP_ROWS = 1024
/** Preparing gives way to requests this often, ms. */
const SLICE_MS = 10
const PROGRESS_EVERY_MS = 100
/** The result is written to one of three places in turn: one shown, one being taken over, one being written. */
const RESULT_SLOTS = 3

const shared = (bytes: number) => new SharedArrayBuffer(bytes)
const pictures = new Map<string, Promise<SharedPicture>>()
const ready = new Map<string, SharedPicture>()
const studio = new Studio(
  (asset) => {
    const picture = ready.get(asset)
    if (!picture) throw new Error('The picture is not open.')
    return picture
  },
  MEMORY,
  shared,
)

let latest: Int32Array = new Int32Array(COUNTERS)
let events: PictureEvents = { progress: () => {}, curve: () => {}, histogram: () => {} }

async function decode(asset: string): Promise<SharedPicture> {
  const response = await fetch(`/api/pictures/${asset}`)
  if (!response.ok)
    throw new Error(
      ((await response.json().catch(() => ({}))) as { problem?: string }).problem ?? 'The picture could not be loaded.',
    )
  const bitmap = await createImageBitmap(await response.blob(), {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  })
  const { width, height } = bitmap
  const full: Picture = { width, height, data: new Uint8ClampedArray(shared(width * height * 4)) }
  const rows = Math.min(STRIP_ROWS, height)
  const canvas = new OffscreenCanvas(width, rows).getContext('2d', { willReadFrequently: true })!
  for (let y = 0; y < height; y += rows) {
    const count = Math.min(rows, height - y)
    canvas.clearRect(0, 0, width, rows)
    canvas.drawImage(bitmap, 0, y, width, count, 0, 0, width, count)
    full.data.set(canvas.getImageData(0, 0, width, count).data, y * width * 4)
  }
  bitmap.close()
  const opaque = isOpaque(full)
  const levels = picturePyramid(full, opaque, shared)
  return { levels, opaque, rarestHue: rarestHue(levels[levels.length - 1]) }
}

function open(asset: string): Promise<SharedPicture> {
  let picture = pictures.get(asset)
  if (!picture) {
    picture = decode(asset)
    pictures.set(asset, picture)
    picture.then(
      (done) => ready.set(asset, done),
      () => pictures.delete(asset),
    )
  }
  return picture
}

async function openAll(
  scene: Pick<SelectRequest, 'layers' | 'scenes'>,
  steps: readonly { readonly kind: string }[] = [],
): Promise<void> {
  await Promise.all(picturesOf(scene, steps).map(({ asset }) => open(asset)))
}
const openArea = async (area: Area, scenes: readonly KeptScene[]): Promise<void> =>
  openAll(sceneOfArea(area, scenes), [...area.recipe.steps, ...area.saved.flatMap((saved) => saved.recipe.steps)])

const NOTHING: Picture = { width: 1, height: 1, data: new Uint8ClampedArray(4) }
/** The boundary that was unrolled last, for pictures of its parts. */
let unrolled: { ribbon: Ribbon; picture: Picture; matte: Matte } | null = null

const slots: { size: Size; levels: Matte[] }[] = []
let slot = 0

/** Copies a matte into the next result place, its mip levels made there. */
function publish(matte: Matte): SharedMatte {
  slot = (slot + 1) % RESULT_SLOTS
  let place = slots[slot]
  if (!place || place.size.width !== matte.width || place.size.height !== matte.height) {
    const levels: Matte[] = []
    let size: Size = matte
    for (let n = levelCount(matte); n > 0; n--, size = halfSize(size))
      levels.push({ width: size.width, height: size.height, data: new Uint8Array(shared(size.width * size.height)) })
    place = slots[slot] = { size: { width: matte.width, height: matte.height }, levels }
  }
  place.levels[0].data.set(matte.data)
  for (let n = 1; n < place.levels.length; n++) halveMatte(place.levels[n - 1], place.levels[n])
  return place.levels.map(({ width, height, data }) => ({ width, height, data }))
}

/** Copies that every thread sees. */
const inShared = (levels: readonly Matte[]): SharedMatte =>
  levels.map(({ width, height, data }) => {
    const copy = new Uint8Array(shared(data.byteLength))
    copy.set(data)
    return { width, height, data: copy }
  })

function contextFor(what: string, stillWanted: () => boolean): { context: Context; end: () => void } {
  let told = performance.now() + 200,
    telling = false // what is done in a moment is not worth a progress bar
  return {
    context: {
      memory: studio.memory,
      check: (fraction) => {
        if (!stillWanted()) throw new Cancelled()
        const now = performance.now()
        if (now - told > PROGRESS_EVERY_MS) {
          told = now
          telling = true
          events.progress(what, fraction)
        }
      },
    },
    end: () => {
      if (telling) events.progress(what, null)
    },
  }
}

const sceneOf = (request: SelectRequest): Scene => studio.scene(request)

async function select(request: SelectRequest, number: number): Promise<SelectResult | null> {
  const wanted = () => Atomics.load(latest, SELECT) === number
  await openAll(request, [...request.steps, ...request.saved.flatMap((saved) => saved.recipe.steps)])
  if (!wanted()) return null
  const { context, end } = contextFor('Selecting', wanted)
  try {
    const scene = sceneOf(request),
      matte = studio.matte(request.steps, scene, context.check, request.draft)
    context.check(0.95)
    const result = { matte: publish(matte), ...shares(matte), bounds: boundsOf(matte), notes: notesOf(request, scene) }
    prepareLater(request)
    return result
  } catch (error) {
    if (error instanceof Cancelled) return null
    throw error
  } finally {
    end()
  }
}

/** What there is to say of the steps shown. */
function notesOf({ steps, draft }: SelectRequest, scene: Scene): Record<string, string> {
  return Object.fromEntries(
    stepNotes(steps, scene, { memory: studio.memory, check: () => {}, draft }).flatMap((note, i) =>
      note && steps[i].id && !steps[i].hidden ? [[steps[i].id, note]] : [],
    ),
  )
}

let preparing: { key: string; work: Generator<number, void>; done: () => void; end: () => void } | null = null
let pumping = false

/** Starts preparing the open step, unless that is already under way; another step's preparation gives way. */
function prepareLater(request: SelectRequest): void {
  const step = request.steps.find((s) => s.id === request.prepare)
  if (step?.kind === 'palette' || step?.kind === 'limitColour') tellHistogram(request, step)
  if (!step || !isFinding(step)) {
    preparing?.end()
    preparing = null
    return
  }
  const scene = sceneOf(request)
  const key = `${step.id} ${scene.identity(step.sample)} ${prepareKey(step)}`
  if (preparing?.key === key) return
  preparing?.end()
  preparing = null
  const { context, end } = contextFor('Measuring every tolerance', () => true)
  const tell = () => tellCurve(step, scene, context)
  const work = finderOf(step).prepare?.(scene, step, context)
  if (!work) {
    tell()
    return
  }
  preparing = { key, work, done: tell, end }
  if (!pumping) {
    pumping = true
    nextTurn.port1.postMessage(null)
  }
}

let told = ''
function tellHistogram(request: SelectRequest, step: StepOfKind<'palette' | 'limitColour'>): void {
  const scene = sceneOf(request),
    sample = step.kind === 'palette' ? step.sample : 'all'
  const key = JSON.stringify([step.colours, sample]),
    whole = `${step.id} ${key} ${scene.identity(sample)}`
  if (whole === told || !step.id) return
  const shares = paletteHistogram(scene, step.colours, sample, { memory: studio.memory, check: () => {} })
  if (shares) {
    told = whole
    events.histogram(step.id, key, shares)
  }
}

/** What a preparation depends on: everything but the values it makes immediate. */
const prepareKey = (step: FindingStep): string =>
  step.kind === 'similarColour' ? JSON.stringify([step.at, step.patch, step.metric, step.contiguous, step.sample]) : ''

function tellCurve(step: FindingStep, scene: Scene, context: Context): void {
  if (step.kind !== 'similarColour' || !step.id) return
  const pick = preparedPick(scene, step, context)
  if (pick) events.curve(step.id, prepareKey(step), toleranceCurve(pick.ends))
}

/** Comes back after waiting requests have had their turn; a timer would add four idle milliseconds each time. */
const nextTurn = new MessageChannel()
nextTurn.port2.onmessage = pump

function pump(): void {
  const now = preparing
  if (!now) {
    pumping = false
    return
  }
  const until = performance.now() + SLICE_MS
  while (performance.now() < until) {
    const step = now.work.next()
    if (step.done) {
      preparing = null
      now.end()
      now.done()
      break
    }
  }
  nextTurn.port1.postMessage(null)
}

const api: PictureWorker = {
  start(buffer, listeners) {
    latest = new Int32Array(buffer)
    events = listeners
  },
  open,
  keep(assets) {
    for (const asset of [...pictures.keys()])
      if (!assets.includes(asset)) {
        pictures.delete(asset)
        ready.delete(asset)
      }
  },
  select,
  async warm(request) {
    await openAll(request)
    warm(sceneOf(request), 'all', contextFor('Looking at the picture', () => true).context)
  },
  stopPreparing() {
    preparing?.end()
    preparing = null
  },
  async mask(mask: LayerMask, scenes) {
    await openArea(mask, scenes)
    const { context, end } = contextFor('Making the mask', () => true)
    try {
      return inShared(studio.mask(mask, scenes, context.check).levels)
    } finally {
      end()
    }
  },
  async keptMatte(request) {
    await openAll(request, request.steps)
    const { context, end } = contextFor('Keeping this edge', () => true)
    try {
      const matte = studio.matte(request.steps, sceneOf(request), context.check)
      return inShared(mattePyramid({ ...matte, data: matte.data.slice() }))
    } finally {
      end()
    }
  },
  async paint(layer, scenes) {
    await Promise.all(layer.items.map((item) => openArea(item.area, scenes)))
    const { context, end } = contextFor('Painting', () => true)
    try {
      const made = studio.paint(layer, scenes, context.check)
      return made && { picture: { ...made.picture, rarestHue: 0 }, x: made.x, y: made.y }
    } finally {
      end()
    }
  },
  async fringed(layer, scenes, number) {
    await Promise.all([open(layer.asset), openArea(layer.mask!, scenes)])
    const { context, end } = contextFor('Taking out fringe colours', () => Atomics.load(latest, SELECT) === number)
    try {
      const made = studio.fringed(layer, scenes, context.check)
      return made && { picture: { ...made.picture, rarestHue: 0 }, x: made.x, y: made.y }
    } catch (error) {
      if (error instanceof Cancelled) return false
      throw error
    } finally {
      end()
    }
  },
  async contentBox(request, box, sample) {
    await openAll(request)
    return contentBox(sceneOf(request).picture(sample), box)
  },
  async trace(request, tolerance, leastArea, number) {
    await openAll(request, request.steps)
    const { context, end } = contextFor('Tracing the edge', () => Atomics.load(latest, TRACE) === number)
    try {
      return pathData(
        matteSubpaths(
          studio.matte(request.steps, sceneOf(request), context.check),
          tolerance,
          leastArea,
          context.check,
        ),
      )
    } catch (error) {
      if (error instanceof Cancelled) return null
      throw error
    } finally {
      end()
    }
  },
  async wire(request, values, to, number) {
    await openAll(request)
    if (Atomics.load(latest, HOVER) !== number) return null
    const scene = sceneOf(request),
      { context, end } = contextFor('Following the edge', () => true)
    try {
      return {
        pinned: wireOutline(scene, values, false, context),
        loose: quickWire(
          segmentView(scene, values.sample, studio).levels,
          values.anchors.at(-1)!,
          to,
          values.width,
          values.contrast,
        ),
      }
    } finally {
      end()
    }
  },
  async region(request, at, detail, sample, number) {
    await openAll(request)
    if (Atomics.load(latest, HOVER) !== number) return null
    const { context, end } = contextFor('Finding the picture’s regions', () => true)
    try {
      const regions = pictureRegions(sceneOf(request), sample, context),
        held = regionsHolding(regions, [at], detail)
      return held && regionOutline(held, regions)
    } finally {
      end()
    }
  },
  async subjects(request, sample, longest) {
    await openAll(request)
    const { context, end } = contextFor('Finding the subject', () => true)
    try {
      const found = thingsOf(sceneOf(request), sample, context)
      return Comlink.transfer(
        ...(() => {
          const bitmaps = (found?.things ?? []).map((thing) =>
            matteBitmap([{ ...found!.size, data: thing.map((v) => v * 255) }], longest),
          )
          return [bitmaps, bitmaps] as const
        })(),
      )
    } finally {
      end()
    }
  },
  async ribbon(request, fringe, number) {
    await openAll(request, request.steps)
    // A newer selection goes first, and asks for a ribbon of its own.
    const selecting = Atomics.load(latest, SELECT),
      { context, end } = contextFor(
        'Unrolling the edge',
        () => Atomics.load(latest, RIBBON) === number && Atomics.load(latest, SELECT) === selecting,
      )
    try {
      const scene = sceneOf(request),
        matte = studio.matte(request.steps, scene, context.check),
        picture = scene.picture('all')
      const shown = fringe ? foregroundColours(picture, matte, fringe, context.check) : picture,
        ribbon = unroll(matte)
      context.check(0.9)
      unrolled = { ribbon, picture: shown, matte: { ...matte, data: matte.data.slice() } }
      return { ...ribbon, places: ribbon.places.slice(), doubts: doubtfulSpots(ribbon, shown, matte) }
    } catch (error) {
      if (error instanceof Cancelled) return null
      throw error
    } finally {
      end()
    }
  },
  ribbonPicture(view) {
    const { ribbon, picture, matte } = unrolled ?? {
      ribbon: { length: 0, places: new Float32Array(0), starts: [0] },
      picture: NOTHING,
      matte: { ...NOTHING, data: new Uint8Array(1) },
    }
    const { data, width, height } = ribbonPicture(ribbon, picture, matte, view),
      bitmap = bitmapOf(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height))
    return Comlink.transfer(bitmap, [bitmap])
  },
  async mattePng(request) {
    await openAll(request, request.steps)
    const { context, end } = contextFor('Making the mask', () => true)
    try {
      const { width, height, data } = studio.matte(request.steps, sceneOf(request), context.check)
      const surface = new OffscreenCanvas(width, height),
        paint = surface.getContext('2d', { alpha: false })!
      for (let y = 0; y < height; y += STRIP_ROWS) {
        const rows = Math.min(STRIP_ROWS, height - y),
          strip = new ImageData(width, rows),
          pixels = new Uint32Array(strip.data.buffer)
        for (let i = 0, from = y * width; i < pixels.length; i++) {
          const v = data[from + i]
          pixels[i] = (v | (v << 8) | (v << 16) | 0xff000000) >>> 0
        }
        paint.putImageData(strip, 0, y)
      }
      return await surface.convertToBlob({ type: 'image/png' })
    } finally {
      end()
    }
  },
  async thumbnails(request, longest) {
    await openAll(request, request.steps)
    const scene = sceneOf(request)
    const context: Context = { memory: studio.memory, check: () => {} }
    const out: Record<string, ImageBitmap> = {}
    for (const step of request.steps) {
      if (!step.id || !isFinding(step)) continue
      out[step.id] = matteBitmap([findStep(step, scene, context).matte], longest)
    }
    return Comlink.transfer(out, Object.values(out))
  },
}

Comlink.expose(api)
