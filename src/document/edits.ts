/** Every change of a project's records, as functions that make an Edit. The labels are what History shows. */
import { type Affine, compose, IDENTITY } from '@/core/raster/affine'
import { looksAtPixels, type Recipe, type Step } from '@/core/steps/registry'
import { type Edit } from './history'
import { keepScene, maskWith } from './masks'
import { layerOf } from './layerRecords'
import {
  type Guide,
  type Layer,
  type Picture,
  type Project,
  type RecipeHome,
  type SavedPath,
  USUAL_PPI,
} from './records'
import { savedNamed, unwrap } from './unwrap'
import { withId } from './withId'

/** New records around one picture: it sets the canvas. */
export function projectOf(name: string, picture: Picture, layerId: string): Project {
  return {
    version: 1,
    name,
    canvas: { width: picture.width, height: picture.height },
    ppi: picture.ppi ?? USUAL_PPI,
    layers: [layerOf(picture, layerId, IDENTITY)],
    activeLayer: layerId,
    selection: { version: 1, steps: [] },
    saved: [],
    paths: [],
    guides: [],
  }
}

export const layerById = (project: Project, id: string | null): Layer | undefined => withId(project.layers, id)

/** The steps at a home; none where the mask is not there. */
export function recipeAt(project: Project, home: RecipeHome): Recipe | undefined {
  return home.kind === 'selection' ? project.selection : layerById(project, home.layer)?.mask?.recipe
}

/** From the coordinates of the steps at a home to the canvas's. */
export function homeToCanvas(project: Project, home: RecipeHome): Affine {
  const layer = home.kind === 'mask' ? layerById(project, home.layer) : undefined
  return layer?.mask ? compose(layer.placement, layer.mask.toLayer) : IDENTITY
}

type ProjectDraft = Parameters<Edit>[0]
type DraftSteps = Step[]
const editSteps =
  (home: RecipeHome, change: (steps: DraftSteps) => void): Edit =>
  (project) => {
    const recipe = home.kind === 'selection' ? project.selection : withId(project.layers, home.layer)?.mask?.recipe
    if (recipe) change(recipe.steps)
  }

/** True when the last step inverts: what was picked is the background. */
export const picksBackground = (recipe: Recipe | undefined): boolean =>
  recipe?.steps.at(-1)?.kind === 'invert' && !recipe.steps.at(-1)!.hidden

/** While the picked region is the background, new steps go on describing the background: they come before the closing invert. */
export const addStep =
  (home: RecipeHome, step: Step): Edit =>
  (project) =>
    editSteps(home, (steps) => {
      const closing = picksBackground({ version: 1, steps })
      steps.splice(closing ? steps.length - 1 : steps.length, 0, madeNow(project, home, step))
    })(project)
/** A step of the selection keeps the pixels and the layer it is made on, as masks do: what is laid over them later does not change what it selects. */
function madeNow(project: ProjectDraft, home: RecipeHome, step: Step): Step {
  if (home.kind !== 'selection' || !looksAtPixels(step)) return step
  if (step.scene !== undefined && project.scenes?.some((scene) => scene.id === step.scene)) return step
  return { ...step, scene: keepScene(project), sceneLayer: project.activeLayer ?? '' }
}
/** Lets a step look at what is there now; at its own layer as long as there is one. */
export const lookAgain =
  (home: RecipeHome, id: string): Edit =>
  (project) =>
    editSteps(home, (steps) => {
      const step = withId(steps, id)
      if (!step) return
      step.scene = keepScene(project)
      if (!project.layers.some((layer) => layer.id === step.sceneLayer)) step.sceneLayer = project.activeLayer ?? ''
    })(project)
export const changeStep = (home: RecipeHome, id: string, change: object): Edit =>
  editSteps(home, (steps) => {
    const step = withId(steps, id)
    if (!step) return
    // A value that is undefined takes an optional field away.
    for (const [name, value] of Object.entries(change))
      if (value === undefined) delete (step as Record<string, unknown>)[name]
      else (step as Record<string, unknown>)[name] = value
  })
/** Another step in the place of one. */
export const exchangeStep = (home: RecipeHome, id: string, other: Step): Edit =>
  editSteps(home, (steps) => {
    const at = steps.findIndex((s) => s.id === id)
    if (at >= 0) steps.splice(at, 1, other)
  })
export const removeStep = (home: RecipeHome, id: string): Edit =>
  editSteps(home, (steps) => {
    const at = steps.findIndex((s) => s.id === id)
    if (at >= 0) steps.splice(at, 1)
  })
export const moveStep = (home: RecipeHome, id: string, to: number): Edit =>
  editSteps(home, (steps) => {
    const from = steps.findIndex((s) => s.id === id)
    if (from >= 0) steps.splice(to, 0, ...steps.splice(from, 1))
  })
export const clearSteps = (home: RecipeHome): Edit =>
  editSteps(home, (steps) => {
    steps.length = 0
  })
export const switchBackground = (home: RecipeHome, on: boolean, id: string): Edit =>
  editSteps(home, (steps) => {
    const closing = picksBackground({ version: 1, steps })
    if (on && !closing) steps.push({ kind: 'invert', hidden: false, id })
    else if (!on && closing) steps.pop()
  })

/** The selection becomes the layer's mask and starts anew; the mask keeps its steps and what they look at. */
export const makeMask =
  (layerId: string): Edit =>
  (project) => {
    maskWith(project, layerId, unwrap(project.selection), { fringe: 1 })
    project.selection.steps = []
  }
/** The layer shows only what lies inside a path; the path becomes the one step of its mask. */
export const clipToPath =
  (layerId: string, step: Step): Edit =>
  (project) =>
    maskWith(project, layerId, { version: 1, steps: [step] })

/** True when a saved selection is named by the steps of the selection, or by another saved one. */
export function isUsed(project: Project, id: string): boolean {
  const saved = withId(project.saved, id)
  return [project.selection, ...project.saved.map((s) => s.recipe)].some((recipe) =>
    recipe.steps.some((step) => step.kind === 'saved' && savedNamed(project.saved, step.selection) === saved),
  )
}

export const saveSelection =
  (id: string, name: string): Edit =>
  (project) => {
    project.saved.push({ id, name, recipe: unwrap(project.selection) })
  }
export const renameSaved =
  (id: string, name: string): Edit =>
  (project) => {
    const saved = withId(project.saved, id)
    if (saved) saved.name = name
  }
export const removeSaved =
  (id: string): Edit =>
  (project) => {
    project.saved = project.saved.filter((s) => s.id !== id)
  }
/** Puts steps at the end, or in place of those there. */
export const putSteps =
  (home: RecipeHome, steps: readonly Step[], instead: boolean): Edit =>
  (project) =>
    editSteps(home, (now) => {
      if (instead) now.length = 0
      now.push(...steps.map((step) => madeNow(project, home, step)))
    })(project)

/** The steps are these again, as they were. */
export const restoreSteps = (home: RecipeHome, steps: readonly Step[]): Edit =>
  editSteps(home, (now) => {
    now.splice(0, now.length, ...(steps as typeof now))
  })

export const savePath =
  (id: string, name: string, d: string): Edit =>
  (project) => {
    project.paths.push({ id, name, d })
  }
export const changePath =
  (id: string, change: Partial<Pick<SavedPath, 'name' | 'd'>>): Edit =>
  (project) => {
    const path = withId(project.paths, id)
    if (path) Object.assign(path, change)
  }
export const removePath =
  (id: string): Edit =>
  (project) => {
    project.paths = project.paths.filter((p) => p.id !== id)
  }

export const addGuide =
  (id: string, axis: Guide['axis'], at: number): Edit =>
  (project) => {
    project.guides.push({ id, axis, at })
  }
export const moveGuide =
  (id: string, at: number): Edit =>
  (project) => {
    const guide = withId(project.guides, id)
    if (guide) guide.at = at
  }
export const removeGuide =
  (id: string): Edit =>
  (project) => {
    project.guides = project.guides.filter((g) => g.id !== id)
  }
export const clearGuides = (): Edit => (project) => {
  project.guides = []
}
export const setLinear =
  (linear: boolean): Edit =>
  (project) => {
    if (linear) project.linear = true
    else delete project.linear
  }
export const setResolution =
  (ppi: number): Edit =>
  (project) => {
    project.ppi = ppi
  }
export const renameProject =
  (name: string): Edit =>
  (project) => {
    project.name = name
  }
