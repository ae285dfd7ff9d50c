/** What the engine is asked about the steps shown: no more goes along than they look at, so a tick costs the same in a small project and in a large one. */
import { type Affine, compose } from '@/core/raster/affine'
import { drafts, looksAtPixels, type Step } from '@/core/steps/registry'
import { homeToCanvas, layerById, recipeAt } from '@/document/edits'
import { sceneOfArea, sceneOfProject, scenesNamed } from '@/document/tree'
import { type Project, type RecipeHome, type SceneRecord } from '@/document/records'
import { type SelectRequest } from '@/engine/page/protocol'
import { type BenchState } from './benchState'
import { partInView } from './frame'
import { withId } from '@/document/withId'

/** The records that steps at a home are folded over. */
function sceneAt(project: Project, home: RecipeHome): SceneRecord {
  const mask = home.kind === 'mask' ? layerById(project, home.layer)?.mask : null
  return mask ? sceneOfArea(mask, project.scenes ?? []) : sceneOfProject(project)
}

/** Null where there are no steps to be. @param prepare the step whose later changes should be made immediate */
export function requestFor(project: Project, home: RecipeHome, prepare: string | null): SelectRequest | null {
  const recipe = recipeAt(project, home)
  if (!recipe) return null
  const scene = sceneAt(project, home)
  return {
    ...scene,
    scenes: scenesNamed(scene, [...recipe.steps, ...scene.saved.flatMap((saved) => saved.recipe.steps)]),
    steps: recipe.steps,
    prepare,
  }
}
/** Whether a quick answer will do: something is being dragged, or a step that makes drafts is still being drawn. */
export const isMoving = (
  { live, drawing, home }: Pick<BenchState, 'live' | 'drawing' | 'home'>,
  project: Project,
): boolean =>
  live !== null ||
  (drawing !== null && (recipeAt(project, home)?.steps ?? []).some((step) => step.id === drawing && drafts(step)))

/** What is asked about a list of steps at each tick, found once. */
interface Traits {
  /** One has a quick answer. */ readonly drafts: boolean
  /** One looks at what is there now, or names what may change with it. */ readonly looksAtNow: boolean
}
const known = new WeakMap<readonly Step[], Traits>()
function traitsOf(steps: readonly Step[]): Traits {
  let traits = known.get(steps)
  if (!traits) known.set(steps, (traits = findTraits(steps)))
  return traits
}
function findTraits(steps: readonly Step[]): Traits {
  const traits = { drafts: false, looksAtNow: false }
  for (const step of steps) {
    traits.drafts ||= drafts(step)
    traits.looksAtNow ||= looksAtNow(step)
  }
  return traits
}

/** What is asked at every change: without the layers, where no step looks at them. @param moving a quick answer will do */
export function selectRequest(
  project: Project,
  home: RecipeHome,
  prepare: string | null,
  moving: boolean,
): SelectRequest | null {
  const steps = recipeAt(project, home)?.steps
  if (!steps) return null
  const traits = traitsOf(steps),
    draft = moving && traits.drafts ? { draft: true } : {}
  if (traits.looksAtNow) return { ...requestFor(project, home, prepare)!, ...draft }
  const scene = sceneAt(project, home)
  return {
    ...scene,
    layers: [],
    saved: [],
    scenes: scenesNamed({ ...scene, layers: [] }, steps),
    steps,
    prepare,
    ...draft,
  }
}

const looksAtNow = (step: Step): boolean =>
  step.kind === 'layer' || step.kind === 'saved' || (step.scene === undefined && looksAtPixels(step))

/** Everything that decides the matte of the steps shown, by reference: records that did not change are the same objects. */
export function decidesMatte(project: Project, home: RecipeHome, prepare: string | null, moving: boolean): unknown[] {
  const steps = recipeAt(project, home)?.steps
  if (!steps?.length) return [steps?.length]
  const scene = sceneAt(project, home),
    traits = traitsOf(steps)
  return [
    steps,
    prepare,
    moving && traits.drafts,
    scene.canvas.width,
    scene.canvas.height,
    ...(traits.looksAtNow ? [scene.layers, scene.active, scene.saved, scene.linear] : []),
  ]
}

/** The same request, looking at what a step was made on. */
export function lookedAt(request: SelectRequest, { scene, sceneLayer }: Step): SelectRequest {
  const kept = withId(request.scenes, scene)
  return kept ? { ...request, layers: kept.layers, active: sceneLayer ?? null, linear: kept.linear ?? false } : request
}

/** From the coordinates of the steps shown to what is in view. */
export const homeToView = (state: BenchState, project: Project): Affine =>
  compose(partInView(state, project).fromCanvas, homeToCanvas(project, state.home))
