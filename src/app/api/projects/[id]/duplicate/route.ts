import { uuid } from '@/server/address'
import { duplicateProject } from '@/server/projects'
import { handle } from '@/server/respond'

/** A project as it is shown now, as another one without its history. */
export const POST = handle<{ id: string }>(async (_, { id }) => ({ id: await duplicateProject(uuid(id, 'project')) }))
