import { pictureName } from '@/server/address'
import { removeMaskPicture } from '@/server/maskPictures'
import { handle } from '@/server/respond'

export const DELETE = handle<{ sha256: string }>(async (_, { sha256 }) => removeMaskPicture(pictureName(sha256)))
