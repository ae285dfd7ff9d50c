import { type StepOfKind } from '@/core/steps/registry'
import { type Point } from '@/core/vector/fill'
import { changeStep, recipeAt } from '@/document/edits'
import { act, beginDrawing, get, giveUpDrawing, set, shownProject } from '@/ui/store/bench'
import { type Drag, type Press } from '../finder'
import { beginStep } from '../putStep'
import { withId } from '@/document/withId'

type WireStep = StepOfKind<'liveWire'>
/** Nearer than this (CSS px) to the start, a press closes the outline; nearer to the last anchor, it is a double click. */
const CLOSE_PX = 9,
  DOUBLE_PX = 3
const LEAST_ANCHORS = 3
/** A straight piece is anchors so far apart, CSS px. */
const STRAIGHT_PX = 6

export function wireInDrawing(): WireStep | undefined {
  const { drawing, home } = get(),
    project = shownProject(get())
  const step = project && drawing ? withId(recipeAt(project, home)?.steps, drawing) : undefined
  return step?.kind === 'liveWire' ? step : undefined
}
/** Ends the wire; one of too few anchors goes, and what was there before it is there again. */
export const closeWire = (): void => {
  const step = wireInDrawing()
  if (step && step.anchors.length < LEAST_ANCHORS) giveUpDrawing()
  set({ drawing: null })
}
export function takeAnchorBack(): void {
  const step = wireInDrawing()
  if (!step) return
  if (step.anchors.length <= 1) closeWire()
  else act('Unpin', changeStep(get().home, step.id!, { anchors: step.anchors.slice(0, -1) }))
}
export const placed = ([x, y]: Point): [number, number] => [Math.round(x * 10) / 10, Math.round(y * 10) / 10]

/** Adds anchors to the wire being drawn. */
export function pin(anchors: readonly Point[], label: string): void {
  const step = wireInDrawing()
  if (step) act(label, changeStep(get().home, step.id!, { anchors: [...step.anchors, ...anchors.map(placed)] }))
}

/** The first press starts, each further one pins; Shift pins at the end of a straight piece. */
export function press(at: Press): Drag {
  const step = wireInDrawing(),
    nothing = { move() {}, end() {} }
  if (!step) {
    const id = crypto.randomUUID(),
      { reach, edgeGradient, followObject } = get().wire
    beginDrawing(id)
    act(
      'Start wire',
      beginStep(at, { kind: 'liveWire', id, anchors: [placed(at.point)], reach, edgeGradient, followObject }),
    )
    set({ openStep: id })
    return nothing
  }
  const last = step.anchors.at(-1)!,
    away = (p: Point) => Math.hypot(p[0] - at.point[0], p[1] - at.point[1]) * at.scale
  if ((step.anchors.length >= LEAST_ANCHORS && away(step.anchors[0]) < CLOSE_PX) || away(last) < DOUBLE_PX) {
    closeWire()
    return nothing
  }
  const pieces = at.shift ? Math.max(1, Math.ceil(away(last) / STRAIGHT_PX)) : 1
  pin(
    Array.from(
      { length: pieces },
      (_, k) =>
        [
          last[0] + ((at.point[0] - last[0]) * (k + 1)) / pieces,
          last[1] + ((at.point[1] - last[1]) * (k + 1)) / pieces,
        ] as const,
    ),
    at.shift ? 'Straight piece' : 'Pin',
  )
  return nothing
}
