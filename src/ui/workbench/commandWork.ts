/** What commands do that is more than a line. */
import { toast } from 'sonner'
import { addGuide, changeStep, layerById, putSteps } from '@/document/edits'
import { nudgePlaceable } from '@/ui/canvas/nudgePlaceable'
import { placeableOf } from '@/ui/canvas/placeable'
import { compose, translation } from '@/core/raster/affine'
import { SELECTION } from '@/document/records'
import { isFinding } from '@/core/steps/registry'
import { subpathsOf, pathData } from '@/core/vector/path'
import { lastSelection } from '@/document/history'
import { withoutNode, movedAll } from '@/ui/finders/bezier/nodes'
import { HANDS } from '@/ui/compose/hands/registry'
import { nextUse } from '@/ui/finders/nextUse'
import { beginStep } from '@/ui/finders/putStep'
import { FINDER_PAGES, finderPage, GROUPS } from '@/ui/finders/registry'
import { takeTool } from '@/ui/finders/takeTool'
import { act, actInBurst, get, set, shownProject, shownSteps, workOnSteps } from '@/ui/store/bench'
import { heldIn } from '@/ui/store/focus'
import { type BenchState } from '@/ui/store/benchState'
import { withId } from '@/document/withId'

export function nudge(dx: number, dy: number): void {
  const state = get(),
    project = shownProject(state)
  if (!project) return
  if (state.stage === 'compose') {
    const thing = placeableOf(project, heldIn(state))
    if (thing && state.hand !== 'crop') nudgePlaceable(thing, dx, dy)
    return
  }
  if (state.stage === 'match') {
    void import('@/ui/match/moving').then(({ arrow }) => arrow(dx, dy))
    return
  }
  const step = withId(shownSteps(state), state.openStep)
  if (!step) return
  const move = (what: string, values: object) =>
    actInBurst(`Move ${what}`, changeStep(state.home, step.id!, values), `move ${step.id}`)
  if (step.kind === 'rectangle' || step.kind === 'ellipse' || step.kind === 'triangle')
    move(step.kind, { x: step.x + dx, y: step.y + dy })
  else if (step.kind === 'band') move('band', { start: step.start + (step.axis === 'row' ? dy : dx) })
  else if (step.kind === 'polygon') move('outline', { points: step.points.map(([x, y]) => [x + dx, y + dy]) })
  else if (step.kind === 'path') move('path', { d: pathData(movedAll(subpathsOf(step.d), dx, dy)) })
  else if (step.kind === 'colourSpot') move('spot', { at: [step.at[0] + dx, step.at[1] + dy] })
  else if (step.kind === 'transform') move('selection', { matrix: compose(translation(dx, dy), step.matrix) })
  else if (step.kind === 'similarColour') move('pick', { at: [step.at[0] + dx, step.at[1] + dy] })
}

/** The next tool of a group; the first when another group's is chosen. In Compose, the tool of that number. */
export function chooseGroup(group: string): void {
  if (get().stage === 'compose') {
    const hand = HANDS.at(GROUPS.findIndex((each) => each.group === group))
    if (hand) set({ hand: hand.id })
    return
  }
  const pages = FINDER_PAGES.filter((page) => page.group === group)
  if (!pages.length) {
    toast(`There is no finder ${GROUPS.find((g) => g.group === group)!.name.toLowerCase()} yet.`)
    return
  }
  const at = pages.findIndex((page) => page.id === get().finder)
  takeTool(pages[(at + 1) % pages.length].id)
}

/** Through the pointer, or the middle when it is not over the picture; on whole px. */
export function guideAt(axis: 'x' | 'y'): void {
  const { pointer } = get(),
    project = shownProject(get())
  if (!project) return
  const { width, height } = project.canvas,
    inside = pointer && pointer[0] >= 0 && pointer[1] >= 0 && pointer[0] <= width && pointer[1] <= height
  act(
    axis === 'x' ? 'Guide down' : 'Guide across',
    addGuide(
      crypto.randomUUID(),
      axis,
      Math.round(inside ? pointer[axis === 'x' ? 0 : 1] : (axis === 'x' ? width : height) / 2),
    ),
  )
}

/** Without a pointer: the chosen finder's step in the middle of what its steps lie on. */
export function stepInMiddle(): void {
  const { home, finder, stage } = get(),
    next = nextUse(get()),
    project = shownProject(get()),
    page = finderPage(finder)
  if (!project || stage !== 'select') return
  if (!page.middle) {
    toast(`${page.name} is drawn on the picture.`)
    return
  }
  const frame = home.kind === 'mask' ? (layerById(project, home.layer)?.mask?.frame ?? project.canvas) : project.canvas
  const id = crypto.randomUUID(),
    first = !shownSteps(get()).some(isFinding)
  act(
    page.name,
    beginStep(
      { home, first, replaces: next === 'replace', op: next === 'replace' ? 'add' : next },
      { kind: page.kind, id, ...page.middle(frame) },
    ),
  )
  set({ openStep: id })
}

/** The chosen point of the open path goes. False when none is chosen, or it is the path's last. */
export function removeNode(): boolean {
  const { node, openStep, home } = get(),
    step = withId(shownSteps(get()), openStep)
  if (!node || step?.kind !== 'path') return false
  const rest = withoutNode(subpathsOf(step.d), node.subpath, node.index)
  if (!rest.length) return false
  act('Remove point', changeStep(home, step.id!, { d: pathData(rest) }))
  set({ node: null })
  return true
}

export function bringBackLast(): void {
  const { project, history, home } = get()
  if (!project) return
  if (home.kind === 'mask') workOnSteps(SELECTION)
  if (project.selection.steps.length) {
    toast('The selection is here; undo goes back to earlier ones.')
    return
  }
  const last = lastSelection(project, history)
  if (last) act('Bring back the last selection', putSteps(SELECTION, structuredClone(last.steps), true))
  else toast('Nothing was selected in this project yet.')
}

/** True when what is brushed with marks rather than paints. */
export const marks = ({ stage, finder }: BenchState): boolean =>
  stage === 'edge' || (stage === 'select' && (finder === 'marks' || finder === 'spread'))
