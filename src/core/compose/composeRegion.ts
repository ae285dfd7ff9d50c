import { type Picture } from '../raster/picture'
import { type Node } from './nodes'
import { type Region } from './region'
import { Renderer } from './renderer'
import { type Settings } from './settings'

let shared: Renderer | undefined
/** One region of a composition, nothing kept. */
export function composeRegion(nodes: readonly Node[], region: Region, settings: Partial<Settings> = {}): Picture {
  shared ??= new Renderer(0)
  const side = 2 ** region.level
  shared.show(nodes, {
    canvas: { width: (region.x + region.width) * side, height: (region.y + region.height) * side },
    ...settings,
  })
  const made = shared.region(region)
  shared.show([], { canvas: region }) // holds on to no picture
  return made
}
