import { type StepOfKind } from '@/core/steps/registry'
import { pathData, subpathsOf } from '@/core/vector/path'
import { changeStep, recipeAt, removeStep } from '@/document/edits'
import { abandon, act, beginDrawing, get, giveUpDrawing, preview, set, settle, shownProject } from '@/ui/store/bench'
import { type Drag, type Press } from '../finder'
import { beginStep } from '../putStep'
import { appended, closedAt, mirrored, openEnd, type Subpaths, withoutLast } from './nodes'
import { withId } from '@/document/withId'

type PathStep = StepOfKind<'path'>
type Point = readonly [number, number]

/** Nearer than this (CSS px) to the start, a press closes the path; nearer to the last point, it is a double click. */
const CLOSE_PX = 9,
  DOUBLE_PX = 3
/** A drag of more than this makes a smooth point. */
const DRAG_PX = 4
const LEAST_POINTS = 2

/** The handles pulled out of points while they were the open end, by step: path data has no place for one until a further point follows. */
const pulled = new Map<string, { at: Point; out: Point }[]>()

function withPulled(path: Subpaths, id: string): Subpaths {
  const last = openEnd(path)?.nodes.at(-1)
  const handle =
    last && pulled.get(id)?.findLast(({ at }) => Math.hypot(last.at[0] - at[0], last.at[1] - at[1]) <= 0.01)
  return handle
    ? [
        ...path.slice(0, -1),
        { closed: false, nodes: [...openEnd(path)!.nodes.slice(0, -1), { ...last, out: handle.out }] },
      ]
    : path
}

/** A path that began smooth ends smooth. */
const closed = (path: Subpaths): Subpaths => {
  const first = openEnd(path)?.nodes[0]
  return closedAt(path, first?.out && mirrored(first.at, first.out))
}

/** The path step whose end is open, if it is the open one. */
function openPath(): PathStep | undefined {
  const { openStep, home } = get(),
    project = shownProject(get())
  const step = project && withId(recipeAt(project, home)?.steps, openStep)
  return step?.kind === 'path' && openEnd(subpathsOf(step.d)) ? step : undefined
}

/** Each click is a corner, each drag a smooth point; a press on the start, a double click or Enter closes. An open end is drawn on from. */
export function press(at: Press, open: PathStep | undefined): Drag {
  const step = !at.further && open && openEnd(subpathsOf(open.d)) ? open : undefined
  const before: Subpaths = step ? withPulled(subpathsOf(step.d), step.id!) : []
  const end = openEnd(before),
    near = (p: readonly [number, number] | undefined, px: number) =>
      p !== undefined && Math.hypot(p[0] - at.point[0], p[1] - at.point[1]) * at.scale < px
  const many = (end?.nodes.length ?? 0) >= LEAST_POINTS
  if (step && many && near(end!.nodes.at(-1)!.at, DOUBLE_PX)) {
    finish()
    return { move() {}, end() {} }
  }
  const closes = step !== undefined && many && near(end!.nodes[0].at, CLOSE_PX)
  const id = step?.id ?? crypto.randomUUID()
  const put = (path: Subpaths) =>
    preview(
      step
        ? changeStep(at.home, id, { d: pathData(path) })
        : beginStep(at, { kind: 'path', id, name: 'Bézier', d: pathData(path) }),
    )
  put(closes ? closed(before) : appended(before, { at: at.point }))
  if (closes) set({ drawing: null })
  else beginDrawing(id)
  set({ openStep: id, node: null })
  return {
    move(point, _modifiers, screen) {
      if (Math.hypot(screen[0] - at.screen[0], screen[1] - at.screen[1]) < DRAG_PX) return
      const start = closes ? end!.nodes[0].at : at.point
      put(
        closes
          ? closedAt(before, mirrored(start, point))
          : appended(before, { at: start, out: point, into: mirrored(start, point) }),
      )
      pulled.set(id, [...(pulled.get(id) ?? []).filter((p) => p.at !== start), { at: start, out: point }])
    },
    end() {
      if (!settle(closes ? 'Close path' : step ? 'Add point' : 'Bézier')) abandon()
    },
  }
}

/** Closes the path that is drawn; one of a single point goes, and what was there before it is there again. */
export function finish(): void {
  const step = openPath(),
    { drawing, home } = get()
  if (step && drawing === step.id) {
    const path = withPulled(subpathsOf(step.d), step.id)
    if (openEnd(path)!.nodes.length >= LEAST_POINTS)
      act('Close path', changeStep(home, step.id, { d: pathData(closed(path)) }))
    else if (path.length > 1) act('Take point back', changeStep(home, step.id, { d: pathData(withoutLast(path)) }))
    else {
      giveUpDrawing()
      set({ openStep: null })
    }
  }
  set({ drawing: null })
}

export function takeBack(): void {
  const step = openPath()
  if (!step) return
  const path = withoutLast(subpathsOf(step.d))
  if (path.length) act('Take point back', changeStep(get().home, step.id!, { d: pathData(path) }))
  else {
    if (get().drawing === step.id) giveUpDrawing()
    else act('Remove path', removeStep(get().home, step.id!))
    set({ openStep: null })
  }
}
