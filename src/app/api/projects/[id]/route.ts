import { deleteProject, openProject } from '@/server/projects'
import { handle } from '@/server/respond'
import { uuid } from '@/server/uuid'

export const dynamic = 'force-dynamic'
export const GET = handle<{ id: string }>(async (_, { id }) => openProject(uuid(id, 'project')))
export const DELETE = handle<{ id: string }>(async (_, { id }) => deleteProject(uuid(id, 'project')))
