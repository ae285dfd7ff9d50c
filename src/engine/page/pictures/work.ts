/** What every request to the picture worker shares: the open pictures, the studio, the counters of the newest requests, and progress. */
import { picturesOf, sceneOfArea } from '@/document/tree'
import { type Area, type KeptScene } from '@/document/records'
import { Cancelled, type Context, type Scene } from '@/core/select/finder'
import { seenByAll } from '@/core/parallel/crew'
import { crewOf, type Port } from '@/core/parallel/threads'
import { Studio } from '../../studio'
import { type Step } from '@/core/steps/registry'
import { NoWeights } from '@/core/network/network'
import { Held, type Hold } from '../held'
import { networkWeights } from '../networkWeights'
import { RefReader } from '../refs'
import {
  COUNTERS,
  type DecodedFile,
  MOST_PREPARED_PIXELS,
  type PictureEvents,
  type SelectRequest,
  type SentRequest,
  type SharedMatte,
  type SharedPicture,
} from '../protocol'
import { type Matte } from '@/core/raster/picture'
import { fetchPicture } from './decode'
import { bringStored, keepCostly, openResultsOf } from './results'

/** Results of steps kept: a prepared pick of up to 106 megapixels, or some twenty mattes of 24. */
const MEMORY = 6 * MOST_PREPARED_PIXELS
const PROGRESS_AFTER_MS = 200,
  PROGRESS_EVERY_MS = 100

/** Other threads that take a share of long work. */
const helpers: Port[] = []
export const crew = crewOf(helpers)
export const addHelper = (port: MessagePort): void => void helpers.push(port)

const pictures = new Held<SharedPicture>()
export const studio = new Studio(
  (asset) => {
    const picture = pictures.value(asset)
    if (!picture) throw new Error('The picture is not open.')
    return picture
  },
  MEMORY,
  { crew, costly: keepCostly },
)

let latest: Int32Array = new Int32Array(COUNTERS)
let events: PictureEvents = {
  progress: () => {},
  curve: () => {},
  histogram: () => {},
  costly: () => {},
  stored: () => Promise.resolve(null),
}
export function listen(buffer: SharedArrayBuffer, project: string, listeners: PictureEvents): void {
  latest = new Int32Array(buffer)
  events = listeners
  openResultsOf(
    project,
    (result) => listeners.costly(result),
    (address) => listeners.stored(address),
  )
}
export const tell = (): PictureEvents => events
/** Whether a request of a kind is still the newest; without a number, none that comes after overtakes it. */
export const newest =
  (kind: number, number: number): (() => boolean) =>
  () =>
    Atomics.load(latest, kind) === number
export const newestNow = (kind: number): number => Atomics.load(latest, kind)
export const always = (): boolean => true

/** What the page decodes meanwhile. */
const arriving = new Map<
  string,
  { readonly file: Promise<DecodedFile | null>; arrived(file: DecodedFile | null): void }
>()
const holdPicture = (asset: string): Hold<SharedPicture> =>
  pictures.hold(asset, () => fetchPicture(asset, arriving.get(asset)?.file))
const opened = new Map<string, Hold<SharedPicture>[]>()
/** It stays open until it has been closed as often as it was opened. */
export async function openPicture(asset: string): Promise<SharedPicture> {
  const hold = holdPicture(asset)
  opened.set(asset, [...(opened.get(asset) ?? []), hold])
  try {
    return await hold.ready
  } catch (error) {
    closePicture(asset)
    throw error
  }
}
export const closePicture = (asset: string): void => opened.get(asset)?.pop()?.release()
export const keepPictures = (assets: readonly string[]): void => pictures.keep(assets)
/** What cannot be had is said when it is asked for. @param decoding those that the page decodes and hands over with `handOver` */
export function openEarly(assets: readonly string[], decoding: readonly string[]): void {
  for (const asset of decoding) {
    let arrived: (file: DecodedFile | null) => void = () => {}
    const file = new Promise<DecodedFile | null>((resolve) => (arrived = resolve))
    arriving.set(asset, { file, arrived })
  }
  keepPictures(assets)
  for (const asset of assets)
    openPicture(asset).then(
      () => closePicture(asset),
      () => {},
    )
}
/** @param file null where the page could not have or decode it: then it is tried here, and what is wrong is said */
export function handOver(asset: string, file: DecodedFile | null): void {
  arriving.get(asset)?.arrived(file)
  arriving.delete(asset)
}

/** Work that begins again when the network was asked for weights that were not there yet, and they are. */
const withWeights = <T>(work: () => Promise<T>): Promise<T> =>
  work().catch(async (error: unknown) => {
    if (!(error instanceof NoWeights)) throw error
    await networkWeights(error.lesson)
    return withWeights(work)
  })

/** @param stored what is stored is brought meanwhile: whether that is all that steps come to. Otherwise the network may be asked: its weights set out, and only what cannot do without waits for them */
async function withPictures<T>(assets: Iterable<string>, work: () => Promise<T>, stored: Promise<boolean>): Promise<T> {
  const holds = [...new Set(assets)].map(holdPicture)
  try {
    const setOut = async () => {
      if (!(await stored)) networkWeights().catch(() => {})
    }
    await Promise.all([setOut(), ...holds.map((hold) => hold.ready)])
    return await withWeights(work)
  } finally {
    for (const hold of holds) hold.release()
  }
}
const stepsOf = ({
  steps,
  saved,
}: {
  readonly steps: SelectRequest['steps']
  readonly saved: SelectRequest['saved']
}) => [...steps, ...saved.flatMap((each) => each.recipe.steps)]
/** Opens the pictures that layers show and steps look at, and holds them until the work is done. */
export function withRequest<T>(sent: SentRequest, work: (request: SelectRequest) => T | Promise<T>): Promise<T> {
  const request = { ...sent, steps: steps.read<Step>(sent.steps), scenes: scenes.read<KeptScene>(sent.scenes) }
  return withPictures(
    picturesOf(request, stepsOf(request)).map(({ asset }) => asset),
    async () => work(request),
    bringStored(request.steps, sceneOf(request), studio.memory),
  )
}
const steps = new RefReader(),
  scenes = new RefReader()
/** Goes on holding the pictures of a request that is being answered, for what is done after it. @returns lets them go */
export function holdOn(request: SelectRequest): () => void {
  const holds = [...new Set(picturesOf(request, stepsOf(request)).map(({ asset }) => asset))].map(holdPicture)
  // They are open: nobody waits for them here.
  for (const hold of holds) hold.ready.catch(() => {})
  return () => {
    for (const hold of holds) hold.release()
  }
}
/** The same for masks and paint. @param more pictures */
export const withAreas = <T>(
  areas: readonly Area[],
  scenes: readonly KeptScene[],
  more: readonly string[],
  work: () => Promise<T>,
): Promise<T> =>
  withPictures(
    [
      ...areas.flatMap((area) =>
        picturesOf(sceneOfArea(area, scenes), stepsOf({ steps: area.recipe.steps, saved: area.saved })).map(
          ({ asset }) => asset,
        ),
      ),
      ...more,
    ],
    work,
    Promise.all(
      areas.map((area) => bringStored(area.recipe.steps, studio.scene(sceneOfArea(area, scenes)), studio.memory)),
    ).then((all) => all.every(Boolean)),
  )

/** What the steps of a request look at. @param check what making that tells its progress, and is called off by */
export const sceneOf = (request: SelectRequest, check?: Context['check']): Scene => studio.scene(request, check)

/** Progress and cancelling for one piece of work; what is done in a moment is not worth a progress bar. */
export function contextFor(what: string, wanted: () => boolean): { context: Context; end: () => void } {
  let told = performance.now() + PROGRESS_AFTER_MS - PROGRESS_EVERY_MS,
    telling = false
  return {
    context: studio.context((fraction) => {
      if (!wanted()) throw new Cancelled()
      const now = performance.now()
      if (now - told > PROGRESS_EVERY_MS) {
        told = now
        telling = true
        events.progress(what, fraction)
      }
    }),
    end: () => {
      if (telling) events.progress(what, null)
    },
  }
}

const turns = new MessageChannel(),
  waitingTurns: (() => void)[] = []
turns.port2.onmessage = () => waitingTurns.shift()?.()
const nextTurn = (): Promise<void> =>
  new Promise((resolve) => {
    waitingTurns.push(resolve)
    turns.port1.postMessage(null)
  })

/** Does a piece of work, telling its progress; waits for the network's weights where it asks for some; null when a newer request overtook it. */
export async function run<T>(
  what: string,
  wanted: () => boolean,
  work: (context: Context) => T | Promise<T>,
): Promise<T | null> {
  // What was answered just now goes out before this begins: long work would hold it back.
  await nextTurn()
  if (!wanted()) return null
  const { context, end } = contextFor(what, wanted)
  try {
    return await withWeights(async () => work(context))
  } catch (error) {
    if (error instanceof Cancelled) return null
    throw error
  } finally {
    end()
  }
}
/** Work that nothing overtakes. */
export const finish = async <T>(what: string, work: (context: Context) => T | Promise<T>): Promise<T> =>
  (await run(what, always, work)) as T

/** As every thread sees them. */
export const inShared = (levels: readonly Matte[]): SharedMatte =>
  levels.map(({ width, height, data }) => ({ width, height, data: seenByAll(crew, data) }))
