import { shownPicture } from '@/server/assets'
import { FOREVER, handle, sendStored } from '@/server/respond'

export const GET = handle<{ sha256: string }>(async (_, { sha256 }) => {
  const { key, mediaType } = await shownPicture(sha256)
  return sendStored(key, 'picture', { 'content-type': mediaType, ...FOREVER })
})
