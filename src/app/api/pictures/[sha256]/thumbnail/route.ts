import { thumbnailOf } from '@/server/pictures/thumbnails'
import { handle } from '@/server/respond'

/** A small picture of a picture, WebP. */
export const GET = handle<{ sha256: string }>(async (_, { sha256 }) => {
  const webp = await thumbnailOf(sha256)
  return new Response(new Uint8Array(webp), {
    headers: { 'content-type': 'image/webp', 'cache-control': 'private, max-age=31536000, immutable' },
  })
})
