import { chooseTool, get } from '@/ui/store/bench'
import { type FinderId } from './kinds'
import { finderPage } from './registry'

/** Takes another tool. What is being drawn point by point is finished, as by Enter. */
export function takeTool(finder: FinderId): void {
  const { drawing, finder: before } = get()
  if (drawing) finderPage(before).finish?.()
  chooseTool(finder)
}
