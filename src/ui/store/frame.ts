/** What is on the screen, of the records and of what is looked at: the one place that says so. */
import { type Affine, IDENTITY } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { ancestorsOf } from '@/document/shown'
import { withDescendants } from '@/document/tree'
import { type Layer, type Project, type RecipeHome } from '@/document/records'
import { canvasToWindow, windowSize } from '@/document/window'
import { type BenchState } from './benchState'
import { withId } from '@/document/withId'

export interface CanvasPart {
  readonly size: Size
  /** From canvas px to its pixels. */ readonly fromCanvas: Affine
}
/** The window, or all of the canvas while the window is being set. */
export const partInView = ({ stage, hand }: Pick<BenchState, 'stage' | 'hand'>, project: Project): CanvasPart =>
  stage === 'compose' && hand === 'crop'
    ? { size: project.canvas, fromCanvas: IDENTITY }
    : { size: windowSize(project), fromCanvas: project.window ? canvasToWindow(project) : IDENTITY }

export const sameHome = (a: RecipeHome, b: RecipeHome): boolean =>
  a.kind === b.kind && (a.kind === 'selection' || a.layer === (b as typeof a).layer)

/** How the kept edge is compared with the one shown; off where there is none, or other steps are shown. */
export const comparing = ({ stage, compare, keptEdge, home, result, before }: BenchState): BenchState['compare'] =>
  stage === 'edge' && keptEdge && result && !before && sameHome(keptEdge.home, home) ? compare : 'off'

/** The layer that is shown by itself because its mask is looked at as a cut-out on a backing; null where none is. */
export function cutOutAlone({ stage, view, backing, home, before, project }: BenchState): string | null {
  if (
    (stage !== 'edge' && stage !== 'select') ||
    view !== 'cutout' ||
    backing === 'below' ||
    home.kind !== 'mask' ||
    before
  )
    return null
  // Of an adjustment by itself there is nothing to see.
  return withId(project?.layers, home.layer)?.kind === 'adjust' ? null : home.layer
}

/** True when the active layer is shown cut out by the selection, over the layers below it. */
export const cutsActive = ({ stage, view, backing, home, before, project }: BenchState): boolean =>
  (stage === 'select' || stage === 'edge') &&
  view === 'cutout' &&
  backing === 'below' &&
  home.kind === 'selection' &&
  !before &&
  Boolean(project?.activeLayer)

export interface Frame {
  readonly layers: readonly Layer[]
  readonly part: CanvasPart
  readonly linear: boolean
  /** The layer that the selection cuts out; null: none. */
  readonly cut: string | null
}
/** Holding “before” shows the pictures as they came; a layer shown alone hides the others. One whose mask is looked at as a cut-out is alone, too: without its mask where a kept edge stands beside. */
export function frameOf(state: BenchState, project: Project): Frame {
  return {
    layers: layersShown(
      project.layers,
      state.before,
      cutOutAlone(state),
      state.solo,
      comparing(state) === 'divider',
      state.without,
    ),
    part: partInView(state, project),
    linear: project.linear ?? false,
    cut: cutsActive(state) ? project.activeLayer : null,
  }
}

/** What was asked last, so that the same question has the very same answer. */
let asked: readonly unknown[] = [],
  answered: readonly Layer[] = []
function layersShown(
  all: readonly Layer[],
  before: boolean,
  alone: string | null,
  solo: string | null,
  beside: boolean,
  without: readonly string[],
): readonly Layer[] {
  const question = [all, before, alone, solo, beside, without]
  if (question.every((value, i) => value === asked[i])) return answered
  asked = question
  const there = without.length
    ? all.map((layer) => (without.includes(layer.id) ? { ...layer, visible: false } : layer))
    : all
  answered = before ? asTheyCame(all) : onlyOne(alone && beside ? unmasked(there, alone) : there, alone ?? solo)
  return answered
}
const asTheyCame = (layers: readonly Layer[]): readonly Layer[] =>
  layers.filter((layer) => layer.kind !== 'adjust').map((layer) => ({ ...layer, mask: null }))
const unmasked = (layers: readonly Layer[], id: string): readonly Layer[] =>
  layers.map((layer) => (layer.id === id ? { ...layer, mask: null } : layer))
/** The others are hidden, not left out: their pictures stay open. */
function onlyOne(layers: readonly Layer[], id: string | null): readonly Layer[] {
  if (!id || !layers.some((layer) => layer.id === id)) return layers
  const around = new Set(ancestorsOf(layers, id).map((layer) => layer.id)),
    inside = new Set(withDescendants(layers, id).map((layer) => layer.id))
  return layers.map((layer) =>
    layer.id === id || around.has(layer.id)
      ? { ...layer, visible: true, ...(layer.id === id ? { clipped: undefined } : {}) }
      : inside.has(layer.id)
        ? layer
        : { ...layer, visible: false },
  )
}
export const samePart = (a: CanvasPart, b: CanvasPart): boolean =>
  a.size.width === b.size.width && a.size.height === b.size.height && sameMap(a.fromCanvas, b.fromCanvas)
export const sameMap = (a: Affine, b: Affine): boolean => a.every((value, i) => value === b[i])
