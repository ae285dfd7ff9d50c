import { storePicture } from '@/server/assets'
import { handle } from '@/server/respond'

/** The body is the file itself; its name comes URI-encoded in x-file-name. */
export const POST = handle(async (request) => {
  let name = 'picture'
  try {
    name = decodeURIComponent(request.headers.get('x-file-name') ?? name).slice(0, 200)
  } catch {
    /* an odd name is no reason to refuse a picture */
  }
  return storePicture(request.body, name)
})
