import { LIBRARY_KINDS, type LibraryKind } from '@/document/library'
import { notFound, Problem } from './problems'

/** The id, when it looks like one; otherwise there is no such thing. */
export function uuid(id: string, what: string): string {
  if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id)) throw notFound(what)
  return id
}

/** A number in the address, where one is given. Throws Problem 422 for what is none. */
export function wholeNumber(request: Request, name: string): number | undefined {
  const given = new URL(request.url).searchParams.get(name)
  if (given === null) return undefined
  if (!/^\d{1,9}$/.test(given)) throw new Problem(422, `${name}: takes a whole number from 0.`)
  return Number(given)
}
/** A picture's name, the SHA-256 of its bytes, out of an address. Throws Problem 404. */
export function pictureName(text: string): string {
  if (!/^[0-9a-f]{64}$/.test(text)) throw notFound('picture')
  return text
}
/** A number from 1 as part of an address. Throws Problem 404. */
export function number(text: string, what: string): number {
  if (!/^[1-9]\d{0,8}$/.test(text)) throw notFound(what)
  return Number(text)
}
/** Throws Problem 404. */
export function libraryKind(text: string): LibraryKind {
  const kind = LIBRARY_KINDS.find((each) => each === text)
  if (!kind) throw notFound('part of the library')
  return kind
}
