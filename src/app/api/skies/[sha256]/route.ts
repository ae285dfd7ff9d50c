import { pictureName } from '@/server/address'
import { checkInput, SkyChangeInput } from '@/server/inputs'
import { handle, readJson } from '@/server/respond'
import { changeSky, removeSky } from '@/server/skies'

export const PATCH = handle<{ sha256: string }>(async (request, { sha256 }) =>
  changeSky(pictureName(sha256), await checkInput(SkyChangeInput, await readJson(request))),
)
export const DELETE = handle<{ sha256: string }>(async (_, { sha256 }) => removeSky(pictureName(sha256)))
