/** The page's workers. They can be begun before anything is asked of them, so that their code is there when the project is. */
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

const waiting: { readonly kind: Kind; readonly worker: Worker; failed: boolean }[] = []

/** Begins what the next engine will take, unless it waits already. */
export function beginThreads(): void {
  if (waiting.length) return
  for (const kind of ['pictures', ...Array<'tiles'>(poolWidth(navigator.hardwareConcurrency)).fill('tiles')] as const) {
    const one = { kind, worker: begin[kind](), failed: false }
    one.worker.onerror = () => (one.failed = true)
    waiting.push(one)
  }
}

/** One that waits, or a new one. @param failed is told when it stops working */
export function takeThread(kind: Kind, failed: () => void): Worker {
  const at = waiting.findIndex((one) => one.kind === kind && !one.failed),
    worker = at < 0 ? begin[kind]() : waiting.splice(at, 1)[0].worker
  worker.onerror = failed
  return worker
}
