/** Snapping: what a dragged place clings to while it is near: the canvas's edges and middle, guides, and other steps' edges and middles. */
import { inverse } from '@/core/raster/affine'
import { isFinding, type Step } from '@/core/steps/registry'
import { subpathsOf } from '@/core/vector/path'
import { homeToCanvas, layerById, recipeAt } from '@/document/edits'
import { cornersOf } from '@/document/layers'
import { isShown } from '@/document/shown'
import { withDescendants } from '@/document/tree'
import { type Project, type RecipeHome } from '@/document/records'
import { get, set, shownProject } from '@/ui/store/bench'
import { placeOn } from '@/ui/canvas/box'

type Point = readonly [number, number]
interface Targets {
  readonly x: readonly number[]
  readonly y: readonly number[]
}

/** CSS px within which a place clings. */
const NEAR_PX = 6

/** The box around what a step draws, in its own coordinates; null where it draws none. */
function extentOf(step: Step): [x: number[], y: number[]] | null {
  const around = (points: readonly Point[]): [number[], number[]] | null => {
    if (!points.length) return null
    const xs = points.map(([x]) => x),
      ys = points.map(([, y]) => y)
    const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
    return [
      [left, (left + right) / 2, right],
      [top, (top + bottom) / 2, bottom],
    ]
  }
  if (step.kind === 'rectangle' || step.kind === 'ellipse' || step.kind === 'triangle')
    return around(
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ].map(([u, v]) => placeOn(step, u, v)),
    )
  if (step.kind === 'band') {
    const edges = [step.start, step.start + step.size]
    return step.axis === 'row' ? [[], edges] : [edges, []]
  }
  if (step.kind === 'polygon') return step.points.length <= 2000 ? around(step.points) : null
  if (step.kind === 'path') return around(subpathsOf(step.d).flatMap(({ nodes }) => nodes.map((node) => node.at)))
  return null
}

function targetsOf(project: Project, home: RecipeHome, except: string | undefined): Targets {
  const frame = home.kind === 'mask' ? (layerById(project, home.layer)?.mask?.frame ?? project.canvas) : project.canvas
  const x = [0, frame.width / 2, frame.width],
    y = [0, frame.height / 2, frame.height]
  const [a, b, c, d, e, f] = inverse(homeToCanvas(project, home))
  if (b === 0 && c === 0)
    for (const guide of project.guides) {
      if (guide.axis === 'x') x.push(a * guide.at + e)
      else y.push(d * guide.at + f)
    }
  for (const step of recipeAt(project, home)?.steps ?? []) {
    if (step.id === except || step.hidden || !isFinding(step)) continue
    const extent = extentOf(step)
    if (extent) {
      x.push(...extent[0])
      y.push(...extent[1])
    }
  }
  return { x, y }
}

/** How far the nearest target is from the nearest of some places; null when none is near. */
function pull(
  places: readonly number[],
  targets: readonly number[],
  within: number,
): { by: number; to: number } | null {
  let best: { by: number; to: number } | null = null
  for (const place of places)
    for (const to of targets) {
      const by = to - place
      if (Math.abs(by) <= within && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, to }
    }
  return best
}

export interface Snapper {
  /** The point, drawn to what is near. `free`: not drawn now. */
  point(point: Point, free?: boolean): [number, number]
  /** How far to move so that one of these places lies on what is near it. */
  offset(xs: readonly number[], ys: readonly number[], free?: boolean): [number, number]
  readonly end: () => void
}

/** For one drag. @param scale CSS px for one px of the steps' coordinates @param except the step that is dragged */
export function snapper(home: RecipeHome, scale: number, except: string | undefined): Snapper {
  const project = shownProject(get())
  return snapperTo(project && get().snapping ? targetsOf(project, home, except) : NOTHING, scale)
}

/** For a drag of a layer: the canvas's edges and middle, guides, and other layers' edges and middles. */
export function layerSnapper(id: string, scale: number): Snapper {
  const project = shownProject(get())
  if (!project || !get().snapping) return snapperTo(NOTHING, scale)
  const { width, height } = project.canvas,
    x = [0, width / 2, width],
    y = [0, height / 2, height],
    own = new Set(withDescendants(project.layers, id).map((layer) => layer.id))
  for (const guide of project.guides) (guide.axis === 'x' ? x : y).push(guide.at)
  for (const layer of project.layers) {
    if (own.has(layer.id) || (layer.kind !== 'picture' && layer.kind !== 'group') || !isShown(project.layers, layer.id))
      continue
    const box = boxOf(cornersOf(project.layers, layer.id))
    if (box) {
      x.push(box.left, (box.left + box.right) / 2, box.right)
      y.push(box.top, (box.top + box.bottom) / 2, box.bottom)
    }
  }
  return snapperTo({ x, y }, scale)
}
export function boxOf(points: readonly Point[]): { left: number; right: number; top: number; bottom: number } | null {
  if (!points.length) return null
  const xs = points.map(([px]) => px),
    ys = points.map(([, py]) => py)
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) }
}

const NOTHING: Targets = { x: [], y: [] }
function snapperTo(targets: Targets, scale: number): Snapper {
  const show = (x: number | null, y: number | null) => {
    const now = get().snapped
    if (now?.x !== x || now?.y !== y) set({ snapped: x === null && y === null ? null : { x, y } })
  }
  const offset = (xs: readonly number[], ys: readonly number[], free = false): [number, number] => {
    const x = free ? null : pull(xs, targets.x, NEAR_PX / scale),
      y = free ? null : pull(ys, targets.y, NEAR_PX / scale)
    show(x ? x.to : null, y ? y.to : null)
    return [x?.by ?? 0, y?.by ?? 0]
  }
  return {
    offset,
    point([x, y], free) {
      const [dx, dy] = offset([x], [y], free)
      return [x + dx, y + dy]
    },
    end() {
      if (get().snapped) set({ snapped: null })
    },
  }
}
