import { resolve } from 'node:path'

/** This machine's own folder, from WILY_DATA. */
export const dataFolder = (): string => resolve(/* turbopackIgnore: true */ process.env.WILY_DATA ?? '.data')
