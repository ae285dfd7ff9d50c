import { notFound } from './problems'

/** The id, when it looks like one; otherwise there is no such thing. */
export function uuid(id: string, what: string): string {
  if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id)) throw notFound(what)
  return id
}
