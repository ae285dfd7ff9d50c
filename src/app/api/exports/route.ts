import { startExport } from '@/server/exports/exports'
import { checkInput, ExportInput } from '@/server/inputs'
import { handle, readJson } from '@/server/respond'

export const POST = handle(async (request) => startExport(await checkInput(ExportInput, await readJson(request))))
