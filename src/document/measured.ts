/** Adjustments whose values were measured, and measured again. */
import { canonicalJson } from '@/core/fields/canonical'
import { found, type ProjectDraft } from './drafts'
import { unwrap } from './unwrap'

/** What the editor set stays; what is as it was measured before becomes what is measured now. */
export function measureAnew(project: ProjectDraft, id: string, measured: object): void {
  const layer = found(project, id)
  if (layer?.kind !== 'adjust') return
  const before = unwrap(layer.measured ?? {}) as Record<string, unknown>,
    now = unwrap(layer.adjustment) as unknown as Record<string, unknown>,
    next = Object.fromEntries(
      Object.entries(measured).map(([field, value]) => [
        field,
        canonicalJson(now[field]) === canonicalJson(before[field]) ? (value as unknown) : now[field],
      ]),
    )
  Object.assign(layer, { adjustment: next, measured })
}
