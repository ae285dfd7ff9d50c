import { storePicture } from '@/server/assets'
import { fileNameOf, handle } from '@/server/respond'

export const dynamic = 'force-dynamic'
/** The body is the file itself; its name comes URI-encoded in x-file-name. */
export const POST = handle(async (request) => storePicture(request.body, fileNameOf(request)))
