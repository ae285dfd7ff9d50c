/** Steps by way of the clipboard, as recipe JSON: from one photo to another, or to the command line. */
import { toast } from 'sonner'
import { RecordError } from '@/core/fields/record'
import { parseRecipe } from '@/core/formats/recipe'
import { putSteps } from '@/document/edits'
import { savedNamed } from '@/document/unwrap'
import { act, get, shownProject, shownSteps, workOnStep } from '@/ui/store/bench'
import { counted } from '@/ui/primitives/counted'

export async function copySteps(): Promise<void> {
  const steps = shownSteps(get())
  if (!steps.length) {
    toast('There are no steps to copy.')
    return
  }
  try {
    await navigator.clipboard.writeText(JSON.stringify({ version: 1, steps }, null, 1))
    toast.success(
      `${counted(steps.length, 'step')} copied: paste them onto another photo, or keep them as a recipe file.`,
    )
  } catch {
    toast.error('The browser does not let this page write to the clipboard.')
  }
}

export async function pasteFromClipboard(): Promise<void> {
  try {
    pasteSteps(await navigator.clipboard.readText())
  } catch {
    toast('The browser does not let this page read the clipboard; press Ctrl+V instead.')
  }
}

/** Puts copied steps after those there, each with an id of its own. Text that is no recipe is refused in a sentence. */
export function pasteSteps(text: string): void {
  const { home } = get(),
    project = shownProject(get())
  if (!project) return
  let json: unknown
  try {
    json = JSON.parse(text)
  } catch {
    toast('What is on the clipboard is no recipe: copy steps first.')
    return
  }
  try {
    // What they looked at stays behind: here they look at this photo.
    const steps = parseRecipe(json).steps.map((step) => ({
      ...step,
      id: crypto.randomUUID(),
      scene: undefined,
      sceneLayer: undefined,
    }))
    const unknown = steps.find((step) => step.kind === 'saved' && !savedNamed(project.saved, step.selection))
    if (unknown?.kind === 'saved') {
      toast.error(`These steps name the saved selection “${unknown.selection}”, which this project does not have.`)
      return
    }
    if (!steps.length) {
      toast('The recipe on the clipboard has no steps.')
      return
    }
    act(`Paste ${counted(steps.length, 'step')}`, putSteps(home, steps, false))
    workOnStep(home, steps.at(-1)!.id)
  } catch (error) {
    if (error instanceof RecordError) toast.error(`The recipe on the clipboard cannot be used. ${error.message}`)
    else throw error
  }
}
