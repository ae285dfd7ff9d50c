/** What can be done with the layers, for menus, keys and the list alike. Each says why it cannot be done now, or does it. */
import { toast } from 'sonner'
import { layerById } from '@/document/edits'
import { changeLayer, duplicateLayer, groupLayers, removeLayer, stepLayer, ungroup } from '@/document/layers'
import { cutOut, eraseSelected, isolate, liftCopy } from '@/document/pieces'
import { LIMITS } from '@/document/limits'
import { ancestorsOf, isShown } from '@/document/shown'
import { clippedAlong, mergedDown, tooDeep } from '@/document/tree'
import { hazeOverWater } from '@/document/hazeOverWater'
import { type Layer, type Project } from '@/document/records'
import { act, get, goToStage, set, shownProject } from '@/ui/store/bench'
import { removed } from '@/ui/store/removed'
import { mergeLayers } from './merge'
import { newProjectFromSelection } from './newProject'

export const newId = (): string => crypto.randomUUID()

interface Now {
  readonly project: Project
  readonly layer: Layer | undefined
}
export const now = (): Now | null => {
  const project = shownProject(get())
  return project && { project, layer: layerById(project, project.activeLayer) }
}
/** The active layer and those chosen with it. */
export const chosenLayers = (project: Project): Layer[] =>
  project.layers.filter((layer) => layer.id === project.activeLayer || get().chosen.includes(layer.id))

export interface LayerAction {
  readonly id: string
  readonly name: string
  /** Why it cannot be done now. */ readonly problem: (now: Now) => string | undefined
  readonly run: (now: Required<Now> & { layer: Layer }) => void
}

const choose = 'Choose a layer first.'
const one = ({ layer }: Now): string | undefined => (layer ? undefined : choose)
const free = ({ layer }: Now): string | undefined =>
  !layer ? choose : layer.locked ? `${layer.name} is locked.` : undefined
const selected = (state: Now): string | undefined =>
  free(state) ?? (state.project.selection.steps.length ? undefined : 'Select something first.')
/** Some acts put groups around the layer. */
const room = ({ project, layer }: Now, more: number, ids = layer ? [layer.id] : []): string | undefined =>
  tooDeep(project.layers, ids, more) ? `Groups lie in groups up to ${LIMITS.groups} deep.` : undefined
const shows = ({ layer }: Now): string | undefined =>
  !layer ? choose : layer.kind === 'adjust' ? 'An adjustment has no pixels of its own.' : undefined

export const LAYER_ACTIONS: readonly LayerAction[] = [
  {
    id: 'duplicate',
    name: 'Duplicate',
    problem: one,
    run: ({ layer }) => act(`Duplicate ${layer.name}`, duplicateLayer(layer.id, newId)),
  },
  {
    id: 'lift',
    name: 'Lift a copy of what is selected',
    problem: (state) => shows(state) ?? selected(state) ?? room(state, 1),
    run: ({ layer }) => {
      act(`Lift from ${layer.name}`, liftCopy(layer.id, newId))
      goToStage('compose')
    },
  },
  {
    id: 'cut',
    name: 'Cut what is selected to a layer',
    problem: (state) => shows(state) ?? selected(state) ?? room(state, 2),
    run: ({ layer }) => {
      act(`Cut from ${layer.name}`, cutOut(layer.id, newId))
      goToStage('compose')
    },
  },
  {
    id: 'erase',
    name: 'Delete what is selected',
    problem: (state) => shows(state) ?? selected(state) ?? room(state, 1),
    run: ({ layer }) => {
      act(`Delete from ${layer.name}`, eraseSelected(layer.id, newId))
    },
  },
  {
    id: 'isolate',
    name: 'Hide everything else',
    problem: one,
    run: ({ layer }) => {
      act(`Only ${layer.name}`, isolate(layer.id))
    },
  },
  {
    id: 'solo',
    name: 'Show it alone, or all again',
    problem: one,
    run: ({ layer }) => set((state) => ({ solo: state.solo === layer.id ? null : layer.id })),
  },
  {
    id: 'group',
    name: 'Group',
    problem: (state) =>
      free(state) ??
      room(
        state,
        1,
        topmost(state.project, chosenLayers(state.project)).map((each) => each.id),
      ),
    run: ({ project }) => {
      const members = topmost(project, chosenLayers(project))
      act(
        `Group ${members.length === 1 ? members[0].name : `${members.length} layers`}`,
        groupLayers(
          members.map((m) => m.id),
          newId(),
          'Group',
        ),
      )
      set({ chosen: [] })
    },
  },
  {
    id: 'ungroup',
    name: 'Ungroup',
    problem: (state) => free(state) ?? (state.layer!.kind === 'group' ? undefined : 'This layer is no group.'),
    run: ({ layer }) => {
      act(`Ungroup ${layer.name}`, ungroup(layer.id))
    },
  },
  {
    id: 'clip',
    name: 'Clip to the layer below, or release',
    problem: (state) => free(state) ?? (state.layer!.clipped ? undefined : clipProblem(state)),
    run: ({ project, layer }) => {
      const all = chosenLayers(project).filter(
          (each) =>
            !each.locked &&
            !each.clipped === !layer.clipped &&
            (each.clipped || !clipProblem({ project, layer: each })),
        ),
        ids = new Set(
          all.flatMap((each) => (layer.clipped ? [each] : clippedAlong(project.layers, each.id))).map(({ id }) => id),
        ),
        what = ids.size > 1 ? `${ids.size} layers` : layer.name
      act(layer.clipped ? `Release ${what}` : `Clip ${what}`, (draft) => {
        for (const id of ids) changeLayer(id, { clipped: !layer.clipped })(draft)
      })
    },
  },
  {
    id: 'lock',
    name: 'Lock, or unlock',
    problem: one,
    run: ({ layer }) => {
      act(
        layer.locked ? `Unlock ${layer.name}` : `Lock ${layer.name}`,
        changeLayer(layer.id, { locked: !layer.locked }),
      )
    },
  },
  {
    id: 'mergeDown',
    name: 'Merge with the layer below',
    problem: (state) => free(state) ?? mergeProblem(state),
    run: ({ project, layer }) => {
      const merged = mergedDown(project.layers, layer.id),
        [{ name }] = merged
      void mergeLayers(
        merged.map(({ id }) => id),
        name,
        `Merge with ${name}`,
        { instead: true },
      )
    },
  },
  {
    id: 'copyVisible',
    name: 'Copy of everything visible',
    problem: ({ project }) =>
      project.layers.some((layer) => isShown(project.layers, layer.id)) ? undefined : 'No layer is shown.',
    run: ({ project }) => {
      void mergeLayers(shownRoots(project), 'Everything visible', 'Copy of everything visible')
    },
  },
  {
    id: 'copySelected',
    name: 'Copy of what is selected of everything visible',
    problem: ({ project }) => (project.selection.steps.length ? undefined : 'Select something first.'),
    run: ({ project }) => {
      void mergeLayers(shownRoots(project), 'Piece of everything', 'Copy of what is selected', { selected: true })
    },
  },
  {
    id: 'newProject',
    name: 'New project from what is selected',
    problem: ({ project }) => (project.selection.steps.length ? undefined : 'Select something first.'),
    run: ({ project }) => {
      void newProjectFromSelection(project)
    },
  },
  {
    id: 'flatten',
    name: 'Flatten',
    problem: ({ project }) =>
      project.layers.some((layer) => isShown(project.layers, layer.id)) ? undefined : 'No layer is shown.',
    run: ({ project }) => {
      void mergeLayers(
        project.layers.filter((layer) => !layer.parent).map((layer) => layer.id),
        'Flattened',
        'Flatten',
        { instead: true },
      )
    },
  },
  {
    id: 'remove',
    name: 'Remove',
    problem: free,
    run: ({ project, layer }) => {
      const all = topmost(project, chosenLayers(project)).filter((each) => !each.locked)
      const what = all.length > 1 ? `${all.length} layers` : layer.name
      removed(`Remove ${what}`, what, (draft) => {
        for (const each of all) {
          hazeOverWater(each.id)(draft)
          removeLayer(each.id)(draft)
        }
      })
      set({ chosen: [] })
    },
  },
  {
    id: 'up',
    name: 'Layer up',
    problem: free,
    run: ({ layer }) => {
      if (!act('Layer up', stepLayer(layer.id, 1))) toast('This layer is on top already.')
    },
  },
  {
    id: 'down',
    name: 'Layer down',
    problem: free,
    run: ({ layer }) => {
      if (!act('Layer down', stepLayer(layer.id, -1))) toast('This layer is the lowest already.')
    },
  },
]

const topmost = (project: Project, layers: readonly Layer[]): Layer[] =>
  layers.filter((layer) => !ancestorsOf(project.layers, layer.id).some((group) => layers.includes(group)))
function clipProblem({ project: { layers }, layer }: Now): string | undefined {
  const [self, ...along] = clippedAlong(layers, layer!.id),
    locked = along.find((each) => each.locked)
  if (!self) return 'There is no layer with pixels below it in its group.'
  return locked && `${locked.name}, which would be clipped with it, is locked.`
}
function mergeProblem({ project: { layers }, layer }: Now): string | undefined {
  const merged = mergedDown(layers, layer!.id)
  if (!merged.length) return 'There is no layer with pixels below it in its group.'
  const locked = merged.find((each) => each.locked)
  if (locked) return `${locked.name}, below it, is locked.`
  const hidden = merged.find((each) => !each.visible)
  return hidden && `${hidden.name} is hidden: it would be lost.`
}
const shownRoots = (project: Project): string[] =>
  project.layers.filter((layer) => !layer.parent && layer.visible).map((layer) => layer.id)

export function runLayerAction(id: string): void {
  const state = now(),
    action = LAYER_ACTIONS.find((each) => each.id === id)
  if (!state || !action) return
  const problem = action.problem(state)
  if (problem) toast(problem)
  else action.run(state as { project: Project; layer: Layer })
}
export const problemOfAction = (id: string): string | undefined => {
  const state = now()
  return state ? LAYER_ACTIONS.find((each) => each.id === id)?.problem(state) : undefined
}
