/** Route handlers' frame: who may ask, how much is read, and problems as one sentence of JSON; everything else is a 500 that is logged. */
import { Readable } from 'node:stream'
import { BATCH_BYTES, CHANGE_BYTES, keepable } from '@/document/limits'
import { foreign } from './foreign'
import { isDatabaseGone, isDiskFull, jsonOf, notFound, Problem } from './problems'
import { storage } from './storage/store'

/** Whoever asked has gone away. */
const GONE = 499

type Handler<P> = (request: Request, params: P) => Promise<Response | object | void>

export function handle<P extends Record<string, string> = Record<string, never>>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    try {
      const problem = foreign(request.headers)
      if (problem) throw new Problem(403, problem)
      const result = await handler(request, await context.params)
      return result instanceof Response ? result : Response.json(result ?? {})
    } catch (error) {
      if (request.signal.aborted) return new Response(null, { status: GONE }) // nobody reads it
      const problem = problemOf(error)
      return Response.json({ problem: problem.message }, { status: problem.status })
    }
  }
}

function problemOf(error: unknown): Problem {
  if (error instanceof Problem) return error
  if (isDatabaseGone(error)) return new Problem(503, 'The database cannot be reached right now.')
  if (isDiskFull(error))
    return new Problem(507, 'The server’s disk is full: nothing more can be stored until there is room.')
  console.error(error)
  return new Problem(500, 'Something went wrong on the server; its log says what.')
}

/** A stored file as it comes. Throws Problem 404 where there is none. @param what it is, for people */
export async function sendStored(key: string, what: string, headers: Record<string, string>): Promise<Response> {
  const found = await storage().open(key)
  if (!found) throw notFound(what)
  return new Response(Readable.toWeb(found.stream) as ReadableStream, {
    headers: { 'content-length': String(found.bytes), ...headers },
  })
}
/** Headers of a file that is to be kept under a name. */
export const asFile = (name: string, mediaType: string): Record<string, string> => ({
  'content-type': mediaType,
  'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
  'cache-control': 'no-store',
})
/** What never changes under its address. */
export const FOREVER = { 'cache-control': 'private, max-age=31536000, immutable' } as const

/** JSON bytes that were made elsewhere. */
export const json = (bytes: Uint8Array): Response =>
  new Response(bytes as Uint8Array<ArrayBuffer>, { headers: { 'content-type': 'application/json' } })

/** The body as it comes, counted while it is read. Throws Problem 413 as soon as it is too long. */
export async function readBody(request: Request, most: number, what = 'The request'): Promise<Uint8Array> {
  const tooLong = () => new Problem(413, `${what} is larger than ${Math.round(most / 1024)} KB.`)
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLong()
  const chunks: Uint8Array[] = []
  let bytes = 0
  const reader = request.body?.getReader()
  for (let part = await reader?.read(); part && !part.done; part = await reader!.read()) {
    bytes += part.value.byteLength
    if (bytes > most) {
      void reader!.cancel().catch(() => {})
      throw tooLong()
    }
    chunks.push(part.value)
  }
  const out = new Uint8Array(bytes)
  let at = 0
  for (const chunk of chunks) {
    out.set(chunk, at)
    at += chunk.byteLength
  }
  return out
}

/** A JSON body that is checked elsewhere. A form of another page cannot send this type without asking first. Throws Problem. */
function readJsonBody(request: Request, most: number): Promise<Uint8Array> {
  const type = request.headers.get('content-type') ?? ''
  if (!/^application\/json\s*(;|$)/i.test(type)) throw new Problem(415, 'The request takes application/json.')
  return readBody(request, most)
}

/** Records, or a batch of changes: checked in the records' threads. */
export const readRecordsBody = (request: Request): Promise<Uint8Array> =>
  readJsonBody(request, CHANGE_BYTES + BATCH_BYTES)
/** The name that comes along with a file. */
export function fileNameOf(request: Request): string {
  try {
    return keepable(decodeURIComponent(request.headers.get('x-file-name') ?? '')) || 'picture'
  } catch {
    return 'picture' // an odd name is no reason to refuse a picture
  }
}

/** Of what is small by its nature. */
const SMALL_JSON = 256 * 1024
/** @param most bytes */
export const readJson = async (request: Request, most = SMALL_JSON): Promise<unknown> =>
  jsonOf(await readJsonBody(request, most))
