import { importProject } from '@/server/projectFile/read'
import { fileNameOf, handle } from '@/server/respond'

export const dynamic = 'force-dynamic'
/** The body is a project file or an OpenRaster file; its name comes URI-encoded in x-file-name, what its progress can be asked by in x-import. */
export const POST = handle(async (request) =>
  importProject(request.body, fileNameOf(request), {
    id: request.headers.get('x-import') ?? undefined,
    signal: request.signal,
  }),
)
