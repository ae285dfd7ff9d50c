import { checkInput, MaskPictureInput } from '@/server/inputs'
import { keepMaskPicture, listMaskPictures } from '@/server/maskPictures'
import { handle, readJson } from '@/server/respond'

export const dynamic = 'force-dynamic'
export const GET = handle(async () => ({ masks: await listMaskPictures() }))
export const POST = handle(async (request) => {
  const { asset, name } = await checkInput(MaskPictureInput, await readJson(request))
  await keepMaskPicture(asset, name)
})
