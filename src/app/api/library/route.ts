import { libraryKind } from '@/server/address'
import { checkInput, LibraryGroupInput, LibraryInput } from '@/server/inputs'
import { listLibrary, putInLibrary, renameLibraryGroup } from '@/server/library'
import { handle, readJson } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle(async (request) => ({
  pictures: await listLibrary(libraryKind(new URL(request.url).searchParams.get('kind') ?? '')),
}))
export const POST = handle(async (request) => putInLibrary(await checkInput(LibraryInput, await readJson(request))))
/** A group is called otherwise. */
export const PATCH = handle(async (request) => {
  const { kind, group, name } = await checkInput(LibraryGroupInput, await readJson(request))
  await renameLibraryGroup(kind, group, name)
})
