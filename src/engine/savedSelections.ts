/** Selections kept under names, folded over a scene. */
import { canonicalJson } from '@/core/fields/canonical'
import { type SavedSelection as FoundSelection, type Scene } from '@/core/select/finder'
import { foldSteps } from '@/core/select/steps'
import { type SavedSelection } from '@/document/records'
import { savedNamed } from '@/document/unwrap'

/** A saved selection folded over a scene; what its own steps name is looked up likewise. Throws when selections name each other in a ring. */
export function savedIn(
  scene: Scene,
  all: readonly SavedSelection[],
  name: string,
  above: readonly string[],
): FoundSelection | undefined {
  const saved = savedNamed(all, name)
  if (!saved) return undefined
  if (above.includes(saved.id))
    throw new Error(
      `The saved selection “${saved.name}” names itself, by way of ${above.length} other${above.length === 1 ? '' : 's'}.`,
    )
  const inner: Scene = { ...scene, saved: (next) => savedIn(scene, all, next, [...above, saved.id]) }
  const named = saved.recipe.steps.flatMap((step) =>
    step.kind === 'saved' ? [inner.saved!(step.selection)?.identity] : [],
  )
  return {
    identity: canonicalJson([saved.recipe.steps, named, scene.identity('all'), scene.identity('layer')]),
    matte: (context) => foldSteps(saved.recipe.steps, inner, context),
  }
}
