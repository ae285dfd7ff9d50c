'use client'
import { apply, compose } from '@/core/raster/affine'
import { homeToCanvas } from '@/document/edits'
import { get, shownProject } from '@/ui/store/bench'
import { partInView } from '@/ui/store/frame'
import { type Viewer } from '@/ui/canvas/viewer'

/** From the steps' coordinates to those of what is in view. */
function shownAt([x, y]: readonly [number, number]): [number, number] {
  const state = get(),
    project = shownProject(state)!
  return apply(compose(partInView(state, project).fromCanvas, homeToCanvas(project, state.home)), x, y)
}

/** Brings a place of the steps into the middle of the view, one to one at the least. */
export function goTo(viewer: Viewer | null, place: readonly [number, number]): void {
  if (!viewer) return
  const shown = shownAt(place),
    box = document.querySelector('[data-canvas]')!.getBoundingClientRect(),
    [x, y] = viewer.toScreen(...shown)
  viewer.panBy(box.width / 2 - x, box.height / 2 - y)
  // An edge is judged pixel by pixel.
  if (viewer.view.scale < 1) viewer.zoomTo(1, box.width / 2, box.height / 2)
}
