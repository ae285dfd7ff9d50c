/** Every change of a project's records, as functions that make an Edit. The labels are what History shows. */
import { type Affine, compose, IDENTITY, inverse, translation } from '@/core/raster/affine'
import { type Recipe, type Step } from '@/core/select/registry'
import { type Edit } from './history'
import { type Layer, type Picture, type Project, type RecipeHome } from './types'

/** New records around one picture: it sets the canvas. */
export function projectOf(name: string, picture: Picture, layerId: string): Project {
  return {
    version: 1, name, canvas: { width: picture.width, height: picture.height },
    layers: [layerOf(picture, layerId, IDENTITY)], activeLayer: layerId, selection: { version: 1, steps: [] },
  }
}

function layerOf(picture: Picture, id: string, placement: Affine): Layer {
  return { id, kind: 'picture', name: picture.name, asset: picture.asset, width: picture.width, height: picture.height, placement, opacity: 1, visible: true, mask: null }
}

export const layerById = (project: Project, id: string | null): Layer | undefined => project.layers.find((layer) => layer.id === id)

/** The steps at a home; none where the mask is not there. */
export function recipeAt(project: Project, home: RecipeHome): Recipe | undefined {
  return home.kind === 'selection' ? project.selection : layerById(project, home.layer)?.mask?.recipe
}

/** From the coordinates of the steps at a home to the canvas's. */
export function homeToCanvas(project: Project, home: RecipeHome): Affine {
  const layer = home.kind === 'mask' ? layerById(project, home.layer) : undefined
  return layer?.mask ? compose(layer.placement, layer.mask.toLayer) : IDENTITY
}

type DraftSteps = Step[]
const editSteps = (home: RecipeHome, change: (steps: DraftSteps) => void): Edit => (project) => {
  const recipe = home.kind === 'selection' ? project.selection : project.layers.find((layer) => layer.id === home.layer)?.mask?.recipe
  if (recipe) change(recipe.steps as DraftSteps)
}

/** True when the last step inverts: what was picked is the background. */
export const picksBackground = (recipe: Recipe | undefined): boolean => recipe?.steps.at(-1)?.kind === 'invert' && !recipe.steps.at(-1)!.hidden

/** While the picked region is the background, new steps go on describing the background: they come before the closing invert. */
export const addStep = (home: RecipeHome, step: Step): Edit => editSteps(home, (steps) => {
  const closing = picksBackground({ version: 1, steps })
  steps.splice(closing ? steps.length - 1 : steps.length, 0, step)
})
export const changeStep = (home: RecipeHome, id: string, change: object): Edit => editSteps(home, (steps) => {
  const step = steps.find((s) => s.id === id)
  if (step) Object.assign(step, change)
})
export const removeStep = (home: RecipeHome, id: string): Edit => editSteps(home, (steps) => {
  const at = steps.findIndex((s) => s.id === id)
  if (at >= 0) steps.splice(at, 1)
})
export const moveStep = (home: RecipeHome, id: string, to: number): Edit => editSteps(home, (steps) => {
  const from = steps.findIndex((s) => s.id === id)
  if (from >= 0) steps.splice(to, 0, ...steps.splice(from, 1))
})
export const clearSteps = (home: RecipeHome): Edit => editSteps(home, (steps) => { steps.length = 0 })
export const switchBackground = (home: RecipeHome, on: boolean, id: string): Edit => editSteps(home, (steps) => {
  const closing = picksBackground({ version: 1, steps })
  if (on && !closing) steps.push({ kind: 'invert', hidden: false, id })
  else if (!on && closing) steps.pop()
})

/** The selection becomes the active layer's mask and starts anew; the mask keeps its steps and what they look at. */
export const makeMask = (layerId: string): Edit => (project) => {
  const layer = project.layers.find((l) => l.id === layerId)
  if (!layer) return
  const scene = structuredClone(plainLayers(project as unknown as Project))
  layer.mask = {
    recipe: structuredClone(unwrap(project.selection)), enabled: true, frame: { ...project.canvas },
    toLayer: [...inverse(layer.placement as unknown as Affine)] as unknown as Affine, scene, sceneLayer: layerId,
  } as never
  project.selection.steps = []
}
/** Draft or not, as plain JSON. */
const unwrap = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
const plainLayers = (project: Project): Layer[] => unwrap(project.layers.filter((layer) => layer.visible)) as Layer[]

export const removeMask = (layerId: string): Edit => (project) => { const layer = project.layers.find((l) => l.id === layerId); if (layer) layer.mask = null }
export const switchMask = (layerId: string, enabled: boolean): Edit => (project) => { const mask = project.layers.find((l) => l.id === layerId)?.mask; if (mask) mask.enabled = enabled }

/** The picture comes in right below `below` (or on top), as large as covers the canvas, in its middle; the active layer stays. */
export const addPicture = (picture: Picture, id: string, below: string | null): Edit => (project) => {
  const { width, height } = project.canvas
  const scale = Math.max(width / picture.width, height / picture.height)
  const cover = compose(translation((width - picture.width * scale) / 2, (height - picture.height * scale) / 2), [scale, 0, 0, scale, 0, 0])
  const layer = layerOf(picture, id, Math.abs(scale - 1) < 1e-9 ? (cover.map(Math.round) as unknown as Affine) : cover)
  const at = below ? project.layers.findIndex((l) => l.id === below) : -1
  project.layers.splice(at >= 0 ? at : project.layers.length, 0, layer as never)
  if (at < 0) project.activeLayer = id
}

export const changeLayer = (id: string, change: Partial<Pick<Layer, 'name' | 'opacity' | 'visible' | 'placement'>>): Edit => (project) => {
  const layer = project.layers.find((l) => l.id === id)
  if (layer) Object.assign(layer, change)
}
export const activateLayer = (id: string): Edit => (project) => { project.activeLayer = id }
export const removeLayer = (id: string): Edit => (project) => {
  const at = project.layers.findIndex((l) => l.id === id)
  if (at < 0) return
  project.layers.splice(at, 1)
  if (project.activeLayer === id) project.activeLayer = project.layers[Math.min(at, project.layers.length - 1)]?.id ?? null
}
export const moveLayer = (id: string, to: number): Edit => (project) => {
  const from = project.layers.findIndex((l) => l.id === id)
  if (from >= 0 && to >= 0 && to < project.layers.length) project.layers.splice(to, 0, ...project.layers.splice(from, 1))
}
export const renameProject = (name: string): Edit => (project) => { project.name = name }
