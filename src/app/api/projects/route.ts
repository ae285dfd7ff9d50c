import { checkInput, NewProjectInput } from '@/server/inputs'
import { createProject, listProjects } from '@/server/projects'
import { handle, readJson } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle(async () => ({ projects: await listProjects() }))
export const POST = handle(async (request) => {
  const input = await checkInput(NewProjectInput, await readJson(request))
  await createProject(input.id, input.records)
  return { id: input.id }
})
