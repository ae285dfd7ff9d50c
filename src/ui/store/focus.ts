/** The one thing that is worked on: a step, whose steps they are (the selection, or a mask), or the active layer. List, inspector, handles and status line all ask here. */
import { type Step } from '@/core/steps/registry'
import { layerById, recipeAt } from '@/document/edits'
import { type Layer, type Project, type RecipeHome, SELECTION } from '@/document/records'
import { type BenchState } from './benchState'
import { type Stage } from './rooms/view'
import { withId } from '@/document/withId'

export type Focus =
  | { readonly kind: 'step'; readonly home: RecipeHome; readonly step: Step; readonly of: Layer | undefined }
  | { readonly kind: 'selection' }
  | { readonly kind: 'mask'; readonly layer: Layer }
  | { readonly kind: 'layer'; readonly layer: Layer }

/** Stages in which steps are drawn and changed; in the others the pointer holds layers. */
export const drawsSteps = (stage: Stage): boolean => stage === 'select' || stage === 'edge'

/** @param project as shown */
export function focusOf(
  { stage, home, openStep, focus }: Pick<BenchState, 'stage' | 'home' | 'openStep' | 'focus'>,
  project: Project,
): Focus {
  const of = home.kind === 'mask' ? layerById(project, home.layer) : undefined,
    step = drawsSteps(stage) && withId(recipeAt(project, home)?.steps, openStep)
  if (step) return { kind: 'step', home, step, of }
  const layer = layerById(project, project.activeLayer)
  if (focus === 'layer' && layer) return { kind: 'layer', layer }
  return of?.mask ? { kind: 'mask', layer: of } : { kind: 'selection' }
}

/** What the pointer holds where layers are moved: the active one, or its mask, if that is not linked to it. */
export const heldIn = ({ home, focus }: Pick<BenchState, 'home' | 'focus'>): 'layer' | 'mask' =>
  focus === 'steps' && home.kind === 'mask' ? 'mask' : 'layer'

/** What goes on when a layer comes to be worked on: a mask that was is left. */
export const onLayer = (home: RecipeHome): Partial<BenchState> => ({
  openStep: null,
  focus: 'layer',
  ...(home.kind === 'mask' ? { home: SELECTION, result: null } : {}),
})

/** What goes on when another stage is shown: where layers are held, the layer; where steps are, those that were open. */
export const inStage = (
  stage: Stage,
  { home, openStep }: Pick<BenchState, 'home' | 'openStep'>,
): Partial<BenchState> => ({
  stage,
  ...(!drawsSteps(stage)
    ? { focus: 'layer' as const }
    : openStep || home.kind === 'mask'
      ? { focus: 'steps' as const }
      : {}),
})
