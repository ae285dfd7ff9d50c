/** The record of an id; undefined where there is none, or no list. A plain loop, since each tick of a slider asks for several: what is called back for every record of a long list would take most of its time. */
export function withId<T extends { readonly id?: string }>(
  list: readonly T[] | undefined,
  id: string | null | undefined,
): T | undefined {
  if (list && typeof id === 'string') for (const each of list) if (each.id === id) return each
  return undefined
}
