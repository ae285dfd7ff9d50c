import { checkInput, SkyGroupInput, SkyInput } from '@/server/inputs'
import { handle, readJson } from '@/server/respond'
import { addSky, listSkies, renameSkyGroup } from '@/server/skies'

export const dynamic = 'force-dynamic'
export const GET = handle(async () => ({ skies: await listSkies() }))
export const POST = handle(async (request) => addSky(await checkInput(SkyInput, await readJson(request))))
/** A group of skies is called otherwise. */
export const PATCH = handle(async (request) => {
  const { group, name } = await checkInput(SkyGroupInput, await readJson(request))
  await renameSkyGroup(group, name)
})
