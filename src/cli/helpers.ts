/** Threads that take a share of what a large photo asks for; they end with the command. */
import { type Crew } from '@/core/parallel/crew'
import { type Size } from '@/core/raster/picture'
import { helped } from '@/server/jobs/helped'

/** From here on threads are worth being begun, px: a box and its edge on 4 megapixels take as long with them as without, another sky on 24 takes seven tenths. */
const LARGE = 4_000_000

/** None for a small picture: what comes of it is the same. */
export const helpersFor = ({ width, height }: Size): Crew | undefined => (width * height < LARGE ? undefined : helped())
