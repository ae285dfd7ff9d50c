/** What moves on the picture while matching: the new sky, or the layer that is matched. Arrow keys step through the skies, or nudge the layer. */
import { matchedAt } from '@/document/matchedLayer'
import { newSkyAt } from '@/document/newSkyParts'
import { type Project } from '@/document/records'
import { dragPlaceable } from '@/ui/canvas/dragPlaceable'
import { nudgePlaceable } from '@/ui/canvas/nudgePlaceable'
import { type Placeable, placeableOf } from '@/ui/canvas/placeable'
import { stageHands } from '@/ui/canvas/stageHands'
import { get, shownProject } from '@/ui/store/bench'
import { matchTool } from './matchTool'
import { stepSky } from './skyActs'

function movedHere(project: Project): Placeable | null {
  const { layers, activeLayer } = project,
    layer = matchTool() === 'sky' ? newSkyAt(layers, activeLayer)?.sky : matchedAt(layers, activeLayer)?.layer
  return layer ? placeableOf({ ...project, activeLayer: layer.id }, 'layer') : null
}

stageHands.match = ({ project, point, scale }) => {
  const thing = movedHere(project)
  return thing && dragPlaceable(thing, point, scale)
}

/** Looks at what is there when it comes to it: several presses may wait for this code. */
export function arrow(dx: number, dy: number): void {
  if (matchTool() === 'sky') {
    if (dx) stepSky(Math.sign(dx))
    return
  }
  const project = shownProject(get()),
    thing = project && movedHere(project)
  if (thing) nudgePlaceable(thing, dx, dy)
}
