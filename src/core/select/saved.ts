import { saved as savedStep, type SavedFields } from '../steps/saved'
import { type Finder, type SavedSelection, type Scene } from './finder'

/** A step names a selection that is not there. */
export class NoSuchSelection extends Error {}

/** Throws NoSuchSelection, in a sentence, when there is no such selection here. */
function lookUp(scene: Scene, { selection }: SavedFields): SavedSelection {
  const found = scene.saved?.(selection)
  if (!found)
    throw new NoSuchSelection(
      scene.saved
        ? `There is no saved selection “${selection}” in this project.`
        : `“${selection}” names a saved selection; those are kept with a project and are not known here.`,
    )
  return found
}

/** A selection saved under a name; it stays what its own steps make of the picture. */
export const saved: Finder<'saved', SavedFields> = {
  ...savedStep,
  dependsOn: (scene, params) => lookUp(scene, params).identity,
  // What a fold hands out may be remembered there: it is copied to be kept here.
  find: (scene, params, context) => ({ ...lookUp(scene, params).matte(context), passing: 'slow' }),
}
