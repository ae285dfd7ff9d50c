/**
 * Whose turn it is. Two run at a time, one for each project, and the project that was served longest ago comes first, so that nobody's row of
 * exports keeps others waiting; when those that run take long and another project waits, a third begins.
 */
const AT_A_TIME = 2
export const AT_MOST = 3
/** Running for so long, an export makes room for a third, ms. */
export const LONG_MS = 20_000

export interface Queued {
  readonly project: string
  /** When it began, ms; undefined while it waits. */
  readonly started?: number
}

/** The job that may begin now; undefined where none may. @param jobs in the order they came, those that are over left out @param served when a job of a project began last, ms */
export function nextToBegin<T extends Queued>(
  jobs: readonly T[],
  now: number,
  served: ReadonlyMap<string, number> = new Map(),
): T | undefined {
  const running = jobs.filter((job) => job.started !== undefined),
    busy = new Set(running.map((job) => job.project))
  const slow = running.every((job) => now - job.started! > LONG_MS)
  if (running.length >= (slow ? AT_MOST : AT_A_TIME)) return undefined
  const last = (job: Queued) => served.get(job.project) ?? -Infinity
  return jobs
    .filter((job) => job.started === undefined && !busy.has(job.project))
    .reduce<T | undefined>((first, job) => (first && last(first) <= last(job) ? first : job), undefined)
}
