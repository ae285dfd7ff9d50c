import { libraryKind, pictureName } from '@/server/address'
import { checkInput, LibraryChangeInput } from '@/server/inputs'
import { changeInLibrary, takeOutOfLibrary } from '@/server/library'
import { handle, readJson } from '@/server/respond'

type Place = { kind: string; sha256: string }
export const PATCH = handle<Place>(async (request, { kind, sha256 }) =>
  changeInLibrary(
    libraryKind(kind),
    pictureName(sha256),
    await checkInput(LibraryChangeInput, await readJson(request)),
  ),
)
export const DELETE = handle<Place>(async (_, { kind, sha256 }) =>
  takeOutOfLibrary(libraryKind(kind), pictureName(sha256)),
)
