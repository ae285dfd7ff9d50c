/** Pages and their parts are for our own address alone; route handlers look for themselves (server/respond.ts), so that bodies are not read twice. */
import { NextResponse, type NextRequest } from 'next/server'
import { foreign } from './server/foreign'

export function proxy(request: NextRequest): NextResponse {
  const problem = foreign(request.headers)
  return problem ? new NextResponse(problem, { status: 403 }) : NextResponse.next()
}
export const config = { matcher: '/((?!api/).*)' }
