/** Everything that can be called by a key or by name. Keys, the command list and the help are made from this one table. */
import { toast } from 'sonner'
import {
  addGuide,
  addStep,
  changeStep,
  clearGuides,
  clearSteps,
  layerById,
  picksBackground,
  putSteps,
  recipeAt,
  removeStep,
  switchBackground,
} from '@/document/edits'
import { HANDS } from '@/ui/compose/hands/registry'
import { LAYER_ACTIONS, runLayerAction } from '@/ui/layers/layerActions'
import { placeableOf } from '@/ui/canvas/placeable'
import { parseStep } from '@/core/formats/recipe'
import { compose, translation } from '@/core/raster/affine'
import { SELECTION } from '@/document/types'
import { isFinding } from '@/core/steps/registry'
import { type ViewMode } from '@/engine/page/protocol'
import { subpathsOf, pathData } from '@/core/vector/path'
import { type Edit, lastSelection } from '@/document/history'
import { withoutNode, movedAll } from '@/ui/finders/bezier/nodes'
import { FINDER_PAGES, finderPage, GROUPS } from '@/ui/finders/registry'
import { burst } from '@/ui/primitives/burst'
import {
  act,
  abandon,
  type BenchState,
  get,
  redoAct,
  set,
  shownProject,
  shownSteps,
  type Stage,
  undoAct,
  preview,
} from '@/ui/store/bench'
import { type Viewer } from '@/ui/canvas/viewer'
import { choosePictures } from '@/ui/store/addPictures'
import { copySteps, pasteFromClipboard } from './stepsClipboard'
import { makeMaskNow, maskProblem, saveProblem, saveSelectionNow } from '@/ui/store/makeOf'

export interface Command {
  readonly id: string
  readonly name: string
  /** As written: "Ctrl+Z", "Shift+ArrowLeft", "i". Ctrl stands for Cmd on a Mac. */
  readonly keys?: readonly string[]
  readonly section: 'Project' | 'View' | 'Stages' | 'Finders' | 'Selection' | 'Layers'
  readonly run: (viewer: Viewer) => void
}

export const STAGES: readonly (readonly [Stage, string])[] = [
  ['gather', 'Gather'],
  ['select', 'Select'],
  ['edge', 'Edge'],
  ['compose', 'Compose'],
  ['deliver', 'Deliver'],
]
export const VIEWS: readonly (readonly [ViewMode, string])[] = [
  ['ants', 'Ants'],
  ['tint', 'Tint'],
  ['cutout', 'Cutout'],
  ['matte', 'Matte'],
  ['dimmed', 'Outside dimmed'],
  ['plain', 'Plain'],
]

/** Shown at once; many presses are one act. */
function shift(label: string, edit: Edit): void {
  preview(edit)
  burst(`nudge ${label}`, () => act(label, edit))
}
function nudge(dx: number, dy: number): void {
  const state = get(),
    project = shownProject(state)
  if (!project) return
  if (state.stage === 'compose') {
    const thing = placeableOf(project, state.placing)
    if (thing?.problem) toast(thing.problem)
    else if (thing && state.hand !== 'crop')
      shift(`Move ${thing.name}`, thing.place(compose(translation(dx, dy), thing.placement)))
    return
  }
  const step = shownSteps(state).find((s) => s.id === state.openStep)
  if (step?.kind === 'rectangle' || step?.kind === 'ellipse' || step?.kind === 'triangle')
    shift(`Move ${step.kind}`, changeStep(state.home, step.id!, { x: step.x + dx, y: step.y + dy }))
  else if (step?.kind === 'band')
    shift('Move band', changeStep(state.home, step.id!, { start: step.start + (step.axis === 'row' ? dy : dx) }))
  else if (step?.kind === 'polygon')
    shift('Move outline', changeStep(state.home, step.id!, { points: step.points.map(([x, y]) => [x + dx, y + dy]) }))
  else if (step?.kind === 'path')
    shift('Move path', changeStep(state.home, step.id!, { d: pathData(movedAll(subpathsOf(step.d), dx, dy)) }))
  else if (step?.kind === 'colourSpot')
    shift('Move spot', changeStep(state.home, step.id!, { at: [step.at[0] + dx, step.at[1] + dy] }))
  else if (step?.kind === 'transform')
    shift('Move selection', changeStep(state.home, step.id!, { matrix: compose(translation(dx, dy), step.matrix) }))
  else if (step?.kind === 'similarColour')
    shift('Move pick', changeStep(state.home, step.id!, { at: [step.at[0] + dx, step.at[1] + dy] }))
}

/** The next finder of a group; the first when another group's is chosen. */
function chooseGroup(group: string): void {
  const pages = FINDER_PAGES.filter((page) => page.group === group)
  if (!pages.length) {
    toast(`There is no finder ${GROUPS.find((g) => g.group === group)!.name.toLowerCase()} yet.`)
    return
  }
  const at = pages.findIndex((page) => page.id === get().finder)
  set({ finder: pages[(at + 1) % pages.length].id, drawing: null, stage: 'select' })
}

/** Through the pointer, or the middle when it is not over the picture; on whole px. */
function guideAt(axis: 'x' | 'y'): void {
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
function stepInMiddle(): void {
  const { home, finder, nextOp, stage } = get(),
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
    addStep(home, parseStep({ kind: page.kind, id, op: first ? 'add' : (nextOp ?? 'add'), ...page.middle(frame) })),
  )
  set({ openStep: id })
}

/** The chosen point of the open path goes. False when none is chosen, or it is the path's last. */
function removeNode(): boolean {
  const { node, openStep, home } = get(),
    step = shownSteps(get()).find((s) => s.id === openStep)
  if (!node || step?.kind !== 'path') return false
  const rest = withoutNode(subpathsOf(step.d), node.subpath, node.index)
  if (!rest.length) return false
  act('Remove point', changeStep(home, step.id!, { d: pathData(rest) }))
  set({ node: null })
  return true
}

function bringBackLast(): void {
  const { project, history, home } = get()
  if (!project) return
  if (home.kind === 'mask') set({ home: SELECTION, openStep: null, result: null })
  if (project.selection.steps.length) {
    toast('The selection is here; undo goes back to earlier ones.')
    return
  }
  const last = lastSelection(project, history)
  if (last) act('Bring back the last selection', putSteps(SELECTION, structuredClone(last.steps), true))
  else toast('Nothing was selected in this project yet.')
}

/** True when what is brushed with marks rather than paints. */
const marks = ({ stage, finder }: BenchState): boolean =>
  stage === 'edge' || (stage === 'select' && (finder === 'marks' || finder === 'spread'))

const LAYER_KEYS: Record<string, readonly string[]> = {
  up: ['Alt+ArrowUp'],
  down: ['Alt+ArrowDown'],
  group: ['Ctrl+g'],
  ungroup: ['Ctrl+Shift+g'],
  duplicate: ['Ctrl+d'],
  lift: ['l'],
  cut: ['Shift+x'],
}

const arrows: [string, number, number][] = [
  ['ArrowLeft', -1, 0],
  ['ArrowRight', 1, 0],
  ['ArrowUp', 0, -1],
  ['ArrowDown', 0, 1],
]
const words: Record<string, string> = { ArrowLeft: 'left', ArrowRight: 'right', ArrowUp: 'up', ArrowDown: 'down' }

export const COMMANDS: readonly Command[] = [
  {
    id: 'undo',
    name: 'Undo',
    keys: ['Ctrl+z'],
    section: 'Project',
    run: () => {
      if (!undoAct()) toast('Nothing to undo.')
    },
  },
  {
    id: 'redo',
    name: 'Redo',
    keys: ['Ctrl+Shift+z', 'Ctrl+y'],
    section: 'Project',
    run: () => {
      if (!redoAct()) toast('Nothing to redo.')
    },
  },
  { id: 'fit', name: 'Fit the picture', keys: ['0'], section: 'View', run: (viewer) => viewer.fit() },
  {
    id: 'actual',
    name: 'One to one',
    keys: ['Shift+0', 'Shift+)'],
    section: 'View',
    run: (viewer) => viewer.zoomTo(1),
  },
  { id: 'zoomIn', name: 'Zoom in', keys: ['+', '=', 'Shift++'], section: 'View', run: (viewer) => viewer.zoomBy(1.4) },
  { id: 'zoomOut', name: 'Zoom out', keys: ['-'], section: 'View', run: (viewer) => viewer.zoomBy(1 / 1.4) },
  {
    id: 'bare',
    name: 'Picture only, panels away',
    keys: ['f'],
    section: 'View',
    run: () => set((state) => ({ bare: !state.bare })),
  },
  ...VIEWS.map(([view, name]): Command => ({
    id: `view ${view}`,
    name: `View: ${name}`,
    section: 'View',
    run: () => set({ view }),
  })),
  {
    id: 'nextView',
    name: 'Next view',
    keys: ['v'],
    section: 'View',
    run: () => set((state) => ({ view: VIEWS[(VIEWS.findIndex(([v]) => v === state.view) + 1) % VIEWS.length][0] })),
  },
  ...STAGES.map(([stage, name]): Command => ({
    id: `stage ${stage}`,
    name: `Go to ${name}`,
    section: 'Stages',
    run: () => set({ stage }),
  })),
  ...GROUPS.map(({ group, name, key }): Command => ({
    id: `group ${group}`,
    name: `Finder ${name.toLowerCase()}, next`,
    keys: [key],
    section: 'Finders',
    run: () => chooseGroup(group),
  })),
  ...FINDER_PAGES.map((page): Command => ({
    id: `finder ${page.id}`,
    name: `Finder: ${page.name}`,
    section: 'Finders',
    run: () => set({ finder: page.id, drawing: null, stage: 'select' }),
  })),
  {
    id: 'background',
    name: 'Invert: what I picked is the background',
    keys: ['i'],
    section: 'Selection',
    run: () => {
      const { home } = get(),
        project = shownProject(get())
      if (!project || !shownSteps(get()).length) {
        toast('Nothing is selected yet.')
        return
      }
      const on = !picksBackground(recipeAt(project, home))
      act(on ? 'The background was picked' : 'The subject was picked', switchBackground(home, on, crypto.randomUUID()))
    },
  },
  {
    id: 'clear',
    name: 'Select nothing (remove all steps)',
    keys: ['Ctrl+Shift+a'],
    section: 'Selection',
    run: () => {
      act('Remove all steps', clearSteps(get().home))
      set({ openStep: null })
    },
  },
  {
    id: 'removeStep',
    name: 'Remove the open step; in Compose: the layer',
    keys: ['Delete', 'Backspace'],
    section: 'Selection',
    run: () => {
      const { openStep, home, drawing, stage } = get()
      if (stage === 'compose') runLayerAction('remove')
      else if (drawing) finderPage(get().finder).takeBack?.()
      else if (!removeNode() && openStep) {
        act('Remove step', removeStep(home, openStep))
        set({ openStep: null })
      }
    },
  },
  ...(
    [
      ['[', 'Smaller brush', (b) => ({ size: Math.max(1, Math.round(b.size / 1.15 - 0.5)) })],
      [']', 'Larger brush', (b) => ({ size: Math.min(2000, Math.round(b.size * 1.15 + 0.5)) })],
      ['Shift+{', 'Softer brush', (b) => ({ hardness: Math.max(0, Math.round(b.hardness * 10 - 1) / 10) })],
      ['Shift+}', 'Harder brush', (b) => ({ hardness: Math.min(1, Math.round(b.hardness * 10 + 1) / 10) })],
    ] as [string, string, (brush: BenchState['brush']) => Partial<BenchState['brush']>][]
  ).map(([key, name, change]): Command => ({
    id: name,
    name,
    keys: [key],
    section: 'Finders',
    run: () =>
      set((state) =>
        marks(state)
          ? {
              marker: {
                ...state.marker,
                size: change({ ...state.brush, size: state.marker.size }).size ?? state.marker.size,
              },
            }
          : { brush: { ...state.brush, ...change(state.brush) } },
      ),
  })),
  {
    id: 'all',
    name: 'Select all',
    keys: ['Ctrl+a'],
    section: 'Selection',
    run: () => {
      const id = crypto.randomUUID()
      act('All', addStep(get().home, parseStep({ kind: 'all', id })))
      set({ openStep: id })
    },
  },
  { id: 'last', name: 'Bring back the last selection', keys: ['Shift+l'], section: 'Selection', run: bringBackLast },
  {
    id: 'copySteps',
    name: 'Copy the steps',
    keys: ['Ctrl+c'],
    section: 'Selection',
    run: () => {
      void copySteps()
    },
  },
  {
    id: 'pasteSteps',
    name: 'Paste steps: copy them on another photo, then press Ctrl+V here',
    section: 'Selection',
    run: () => {
      void pasteFromClipboard()
    },
  },
  {
    id: 'divider',
    name: 'Before and after, side by side',
    keys: ['d'],
    section: 'View',
    run: () => {
      const width = shownProject(get())?.canvas.width ?? 0
      set((state) => ({ divider: state.divider === null ? width / 2 : null }))
    },
  },
  ...(
    [
      ['.', 'Next doubtful spot of the edge', 1],
      [',', 'Previous doubtful spot of the edge', -1],
    ] as const
  ).map(([key, name, by]): Command => ({
    id: name,
    name,
    keys: [key],
    section: 'View',
    run: () => {
      if (get().stage !== 'edge') toast('Doubtful spots are shown in Edge, under the ribbon.')
      else set({ ribbon: true, doubtAsked: { by } })
    },
  })),
  {
    id: 'crosshair',
    name: 'Precise cross-hair pointer, on and off',
    keys: ['c'],
    section: 'View',
    run: () => set((state) => ({ crosshair: !state.crosshair })),
  },
  { id: 'guideDown', name: 'Guide down through the pointer', keys: ['g'], section: 'View', run: () => guideAt('x') },
  {
    id: 'guideAcross',
    name: 'Guide across through the pointer',
    keys: ['Shift+g'],
    section: 'View',
    run: () => guideAt('y'),
  },
  {
    id: 'noGuides',
    name: 'Remove all guides',
    section: 'View',
    run: () => {
      if (!act('Remove all guides', clearGuides())) toast('There are no guides.')
    },
  },
  {
    id: 'mask',
    name: 'Make mask',
    keys: ['m'],
    section: 'Selection',
    run: () => {
      const problem = maskProblem()
      if (problem) toast(problem)
      else makeMaskNow()
    },
  },
  {
    id: 'saveSelection',
    name: 'Save the selection',
    keys: ['k'],
    section: 'Selection',
    run: () => {
      const problem = saveProblem()
      if (problem) toast(problem)
      else saveSelectionNow()
    },
  },
  {
    id: 'finish',
    name: 'Finish the outline; else a step in the middle',
    keys: ['Enter'],
    section: 'Selection',
    run: () => {
      if (get().drawing) finderPage(get().finder).finish?.()
      else stepInMiddle()
    },
  },
  {
    id: 'cancel',
    name: 'Cancel what is under way; close the open step',
    keys: ['Escape'],
    section: 'Selection',
    run: () => {
      const { drawing, finder } = get()
      if (drawing && finder === 'bezier') set({ drawing: null })
      else if (drawing) finderPage(finder).finish?.()
      else if (get().live) abandon()
      else if (get().bare) set({ bare: false })
      else set({ openStep: null })
    },
  },
  ...HANDS.map((hand): Command => ({
    id: `hand ${hand.id}`,
    name: `Compose: ${hand.name}`,
    section: 'Layers',
    run: () => set({ stage: 'compose', hand: hand.id }),
  })),
  {
    id: 'swap',
    name: 'Swap the colours; on a mask: paint what shows, or what hides',
    keys: ['x'],
    section: 'Layers',
    run: () =>
      set((state) =>
        state.stage === 'compose'
          ? { colour: state.otherColour, otherColour: state.colour }
          : { nextOp: state.nextOp === 'subtract' ? 'add' : 'subtract' },
      ),
  },
  ...LAYER_ACTIONS.map((action): Command => ({
    id: `layer ${action.id}`,
    name: `Layer: ${action.name}`,
    keys: LAYER_KEYS[action.id],
    section: 'Layers',
    run: () => runLayerAction(action.id),
  })),
  {
    id: 'addBelow',
    name: 'Add pictures below the active layer …',
    section: 'Layers',
    run: () => choosePictures(shownProject(get())?.activeLayer ?? null),
  },
  { id: 'addTop', name: 'Add pictures on top …', section: 'Layers', run: () => choosePictures(null) },
  ...arrows.map(([key, dx, dy]): Command => ({
    id: `nudge ${key}`,
    name: `Move ${words[key]} by 1 px`,
    keys: [key],
    section: 'Layers',
    run: () => nudge(dx, dy),
  })),
  ...arrows.map(([key, dx, dy]): Command => ({
    id: `nudge10 ${key}`,
    name: `Move ${words[key]} by 10 px`,
    keys: [`Shift+${key}`],
    section: 'Layers',
    run: () => nudge(10 * dx, 10 * dy),
  })),
]

/** What a key press is called in the table. */
export function keyName(event: KeyboardEvent): string {
  return `${event.ctrlKey || event.metaKey ? 'Ctrl+' : ''}${event.altKey ? 'Alt+' : ''}${event.shiftKey ? 'Shift+' : ''}${event.key.length === 1 ? event.key.toLowerCase() : event.key}`
}
/** For menus: commands that do not need the view. */
export const runCommand = (id: string): void => COMMANDS.find((command) => command.id === id)?.run(null as never)

const byKey = new Map(COMMANDS.flatMap((command) => (command.keys ?? []).map((key) => [key, command] as const)))
export const commandFor = (event: KeyboardEvent): Command | undefined => byKey.get(keyName(event))

const SIGNS: Record<string, string> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  Delete: 'Del',
  Escape: 'Esc',
}
/** For people: "Ctrl+Shift+Z". */
export const shownKey = (key: string): string =>
  key
    .split('+')
    .map((part) => SIGNS[part] ?? (part.length === 1 ? part.toUpperCase() : part))
    .join('+') || '+'

/** In the order in which they are listed. */
export const SECTIONS = ['Project', 'View', 'Stages', 'Finders', 'Selection', 'Layers'] as const
