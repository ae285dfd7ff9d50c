/** What edits of layers do to a draft of the records. */
import { type Recipe } from '@/core/steps/registry'
import { type Edit } from './history'
import { type Layer } from './records'
import { unwrap } from './unwrap'
import { withId } from './withId'

export type ProjectDraft = Parameters<Edit>[0]
export const plain = (project: ProjectDraft): Layer[] => unwrap(project.layers)
export const found = (project: ProjectDraft, id: string | null) => withId(project.layers, id)
export const at = (project: ProjectDraft, id: string) => project.layers.findIndex((layer) => layer.id === id)

export const selected = (project: ProjectDraft): Recipe => unwrap(project.selection)
