import { JsonError, readJson } from '@/core/formats/json'

/** What can go wrong for a person, and its answer: one sentence and a status. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    sentence: string,
  ) {
    super(sentence)
  }
}
export const notFound = (what: string) => new Problem(404, `There is no such ${what}.`)

/** Throws Problem 422. */
export function jsonOf(body: Uint8Array): unknown {
  try {
    return readJson(body)
  } catch (error) {
    throw error instanceof JsonError ? new Problem(422, `The request ${error.message}.`) : error
  }
}

/** True for errors that mean the database cannot be reached right now. */
export function isDatabaseGone(error: unknown): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause) {
    const code = (e as { code?: string }).code ?? ''
    if (
      /^(ECONNREFUSED|ECONNRESET|EPIPE|ENOTFOUND|ETIMEDOUT|57P0\d|08\d\d\d)$/.test(code) ||
      /timeout exceeded when trying to connect|Connection terminated|Client has encountered a connection error/i.test(
        e.message,
      )
    )
      return true
    if (e instanceof AggregateError && e.errors.some(isDatabaseGone)) return true
  }
  return false
}

/** True where there is no room left for what was to be written. */
export function isDiskFull(error: unknown): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause)
    if (/^(ENOSPC|EDQUOT|53100)$/.test((e as { code?: string }).code ?? '')) return true
  return false
}
