/** Drawing an outline point by point: corners, and freehand pieces between them. */
import { type StepOfKind } from '@/core/steps/registry'
import { changeStep, recipeAt } from '@/document/edits'
import { abandon, act, beginDrawing, get, giveUpDrawing, preview, set, settle, shownProject } from '@/ui/store/bench'
import { type Drag, type Press } from '../finder'
import { beginStep } from '../putStep'
import { remembered } from '../remembered'
import { type Point, rounded, simplify, steadied } from './simplify'
import { withId } from '@/document/withId'

/** Nearer than this (CSS px) to the start, a press closes the outline; nearer to the last corner, it is a double click. */
const CLOSE_PX = 9
const DRAG_PX = 5
const TOLERANCE_PX = 0.7
const LEAST_CORNERS = 3

/** Two taps of a finger: so soon after each other (ms), so near (CSS px). */
const TWICE_MS = 350,
  TWICE_PX = 14
/** When the last corner was set. */
let pressed = -Infinity

const near = (a: Point, b: Point, px: number, scale: number) => Math.hypot(a[0] - b[0], a[1] - b[1]) * scale < px

/** The outline being drawn, if it is still there. */
function outlineInDrawing(): StepOfKind<'polygon' | 'edgeBand'> | undefined {
  const { drawing, home } = get(),
    project = shownProject(get())
  const step = project && drawing ? withId(recipeAt(project, home)?.steps, drawing) : undefined
  return step?.kind === 'polygon' || step?.kind === 'edgeBand' ? step : undefined
}
/** Ends the outline; one of too few corners goes, and what was there before it is there again. */
export const closeOutline = (): void => {
  const step = outlineInDrawing()
  if (step && step.points.length < LEAST_CORNERS) giveUpDrawing()
  set({ drawing: null })
}
export function takeCornerBack(): void {
  const step = outlineInDrawing()
  if (!step) return
  if (step.points.length <= 1) closeOutline()
  else act('Take corner back', changeStep(get().home, step.id!, { points: step.points.slice(0, -1) }))
}

/** Each click is a corner; a drag in between is drawn freehand; a click on the start, a double click or Enter closes. */
export const pressCorners =
  (start: { kind: 'polygon' | 'edgeBand'; name?: string }) =>
  (at: Press): Drag => {
    const step = outlineInDrawing()
    if (step) {
      const last = step.points.at(-1)!
      if (
        (step.points.length >= LEAST_CORNERS && near(at.point, step.points[0], CLOSE_PX, at.scale)) ||
        near(at.point, last, DRAG_PX / 2, at.scale) ||
        (performance.now() - pressed < TWICE_MS && near(at.point, last, TWICE_PX, at.scale))
      ) {
        closeOutline()
        return { move() {}, end() {} }
      }
    }
    pressed = performance.now()
    const id = step?.id ?? crypto.randomUUID()
    const drawn: Point[] = [at.point]
    const put = (points: readonly Point[]) =>
      step
        ? changeStep(at.home, id, { points: [...step.points, ...points] })
        : beginStep(at, { ...remembered(start.kind), ...start, id, points })
    preview(put(rounded(drawn)))
    beginDrawing(id)
    set({ openStep: id })
    let dragged = false
    return {
      move(point, _modifiers, screen) {
        dragged ||= Math.hypot(screen[0] - at.screen[0], screen[1] - at.screen[1]) >= DRAG_PX
        drawn.push(point)
        if (dragged) preview(put(rounded(simplify(steadied(drawn), TOLERANCE_PX / at.scale))))
      },
      end() {
        if (!settle(dragged ? 'Draw outline' : 'Add corner')) abandon()
      },
    }
  }
