/** The page's workers. They can be begun before anything is asked of them, so that their code, and the pictures, are there when the page is. */
import * as Comlink from 'comlink'
import { decodedFile } from './pictures/file'
import { type PictureWorker } from './protocol'

type Kind = 'pictures' | 'tiles'

const begin: Readonly<Record<Kind, () => Worker>> = {
  pictures: () =>
    new Worker(new URL('./pictures/pictureWorker.ts', import.meta.url), { type: 'module', name: 'pictures' }),
  tiles: () => new Worker(new URL('./tiles/tileWorker.ts', import.meta.url), { type: 'module', name: 'tiles' }),
}

/** At least two for tiles, though the processor has fewer threads to spare; more than the most are not used. */
const LEAST = 2,
  MOST = 16
/** How many tile workers a processor of so many threads gets: one thread is the page's own. */
export const poolWidth = (threads: number): number => Math.min(MOST, Math.max(LEAST, threads - 1))

interface Waiting {
  readonly kind: Kind
  readonly worker: Worker
  failed: boolean
}
const waiting: Waiting[] = []

function beginThread(kind: Kind): Waiting {
  const one = { kind, worker: begin[kind](), failed: false }
  one.worker.onerror = () => (one.failed = true)
  waiting.push(one)
  return one
}
const waitingOnes = (kind: Kind): Waiting[] => waiting.filter((one) => one.kind === kind && !one.failed)

/** Begins what the next engine will take, unless it waits already. */
export function beginThreads(): void {
  if (!waitingOnes('pictures').length) beginThread('pictures')
  for (let n = waitingOnes('tiles').length; n < poolWidth(navigator.hardwareConcurrency); n++) beginThread('tiles')
}

const remotes = new WeakMap<Worker, unknown>()
/** A worker's functions. One for each worker: what Comlink wraps lets go of the worker's end when it is collected, for everybody. */
export function remoteOf<T>(thread: Worker): Comlink.Remote<T> {
  const remote = (remotes.get(thread) as Comlink.Remote<T> | undefined) ?? Comlink.wrap<T>(thread)
  remotes.set(thread, remote)
  return remote
}

/** So many pictures are decoded before the picture worker runs: each is 4 bytes a pixel until it takes it. */
const DECODED_EARLY = 2
/** Begins the picture worker, before the others that have nothing to do yet; it opens what a project shows while the page is being made. Its own code takes longer to come than a picture: the first ones are decoded meanwhile. @param shown the pictures' assets */
export function beginPictures(shown: Promise<readonly string[]>): void {
  const { worker } = waitingOnes('pictures')[0] ?? beginThread('pictures'),
    pictures = remoteOf<PictureWorker>(worker)
  shown.then(
    (assets) => {
      const decoding = assets.slice(0, DECODED_EARLY)
      void pictures.openEarly(assets, decoding)
      for (const asset of decoding)
        decodedFile(asset).then(
          (file) => void pictures.handOver(asset, Comlink.transfer(file, [file.bitmap])),
          () => void pictures.handOver(asset, null),
        )
    },
    () => {}, // who opens the project is told
  )
}

/** One that waits, or a new one. @param failed is told when it stops working */
export function takeThread(kind: Kind, failed: () => void): Worker {
  const [one] = waitingOnes(kind),
    worker = one ? one.worker : begin[kind]()
  if (one) waiting.splice(waiting.indexOf(one), 1)
  worker.onerror = failed
  return worker
}
