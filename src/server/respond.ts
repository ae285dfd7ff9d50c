/** Route handlers' frame: problems become one sentence of JSON, everything else a 500 that is logged. */
import { isDatabaseGone, Problem } from './problems'

type Handler<P> = (request: Request, params: P) => Promise<Response | object | void>

export function handle<P extends Record<string, string> = Record<string, never>>(handler: Handler<P>) {
  return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
    try {
      const result = await handler(request, await context.params)
      return result instanceof Response ? result : Response.json(result ?? {})
    } catch (error) {
      if (error instanceof Problem) return Response.json({ problem: error.message }, { status: error.status })
      if (isDatabaseGone(error))
        return Response.json({ problem: 'The database cannot be reached right now.' }, { status: 503 })
      console.error(error)
      return Response.json({ problem: 'Something went wrong on the server; its log says what.' }, { status: 500 })
    }
  }
}

const MOST_JSON = 32 * 1024 * 1024

export async function readJson(request: Request): Promise<unknown> {
  if (Number(request.headers.get('content-length') ?? 0) > MOST_JSON)
    throw new Problem(413, 'The request is too large.')
  try {
    return await request.json()
  } catch {
    throw new Problem(422, 'The request is not JSON.')
  }
}
