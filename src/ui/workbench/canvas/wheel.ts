/** The wheel over the canvas: it zooms, or with Alt does what the tool at hand makes of it. */
import { type Viewer } from '@/ui/canvas/viewer'
import { finderPage } from '@/ui/finders/registry'
import { get } from '@/ui/store/bench'

const WHEEL_STEP = 1.0016
/** A wheel that counts lines: px for each. */
const LINE_PX = 33

/** @param place of the pointer on the surface, CSS px @returns what ends it */
export function followWheel(
  element: HTMLElement,
  viewer: Viewer,
  place: (event: WheelEvent) => [number, number],
): () => void {
  const wheel = (event: WheelEvent) => {
    event.preventDefault()
    const { stage, finder } = get(),
      own = event.altKey && stage === 'select' ? finderPage(finder).wheel : undefined
    if (own) {
      own(Math.sign(event.deltaY || event.deltaX))
      return
    }
    const [x, y] = place(event)
    viewer.zoomBy(WHEEL_STEP ** -(event.deltaMode ? event.deltaY * LINE_PX : event.deltaY), x, y)
  }
  element.addEventListener('wheel', wheel, { passive: false })
  return () => element.removeEventListener('wheel', wheel)
}
