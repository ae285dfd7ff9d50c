import { Crop } from 'lucide-react'
import { apply, inverse } from '@/core/raster/affine'
import { setWindow, windowToCanvas } from '@/document/window'
import { later } from '@/ui/primitives/later'
import { get, preview, settle } from '@/ui/store/bench'
import { ratioOf, shown, stretched } from './cropWindow'
import { type HandPage, type HandPress } from './hand'

const CropPanel = later(() => import('./CropPanel').then((module) => module.CropPanel)),
  CropHandles = later(() => import('./CropHandles').then((module) => module.CropHandles))

/** A drag inside the window moves it; outside it draws a new one. */
function press({ project, point, scale }: HandPress) {
  const window = shown(project),
    [u, v] = apply(inverse(windowToCanvas({ window })), point[0], point[1])
  const inside = project.window !== undefined && u >= 0 && v >= 0 && u <= window.width && v <= window.height
  let moved = false
  return {
    move([x, y]: readonly [number, number]) {
      moved ||= Math.hypot(x - point[0], y - point[1]) * scale > 4
      if (!moved) return
      if (inside) preview(setWindow({ ...window, cx: window.cx + x - point[0], cy: window.cy + y - point[1] }))
      else {
        const ratio = ratioOf(get().cropRatio, project)
        preview(
          setWindow(
            stretched(
              { cx: point[0], cy: point[1], width: 0, height: 0, turn: 0 },
              x >= point[0] ? 1 : 0,
              y >= point[1] ? 1 : 0,
              [x, y],
              ratio,
              false,
            ),
          ),
        )
      }
    },
    end() {
      if (moved) settle(inside ? 'Move crop' : 'Crop')
    },
  }
}

export const cropHand: HandPage = {
  id: 'crop',
  name: 'Crop',
  icon: Crop,
  press,
  Handles: CropHandles,
  Panel: CropPanel,
  hint: 'Drag the frame, or draw a new one; the round grip straightens. What lies outside is kept, and can be brought back at any time. The frame may also be larger than the canvas.',
}
