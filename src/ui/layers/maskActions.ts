/** Where masks come from and what becomes of them. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { saveFile } from '@/ui/primitives/saveFile'
import { keepable } from '@/document/limits'
import { toast } from 'sonner'
import { parseStep } from '@/core/formats/recipe'
import { type Recipe, type Step } from '@/core/steps/registry'
import { recipeAt } from '@/document/edits'
import { changeMask, copyMask, type MaskChange, setMask } from '@/document/masks'
import { type Layer, SELECTION } from '@/document/records'
import { type FinderId } from '@/ui/finders/kinds'
import { toolOf } from '@/ui/modifiers/registry'
import { act, get, goToStage, set, shownProject, workOnStep, workOnSteps } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { choosePictureFiles, nameOfFile, sendWithProgress, tell } from '@/ui/store/addPictures'
import { mergeLayers } from './merge'

const newId = (): string => crypto.randomUUID()
const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps })
const step = (values: object): Step => parseStep({ id: newId(), ...values })

/** Opens a mask's steps, as in Select. Painting begins with nothing over the picture: what the mask does is what is to be seen. */
export function openMask(layer: string, finder?: FinderId): void {
  const home = { kind: 'mask', layer } as const,
    project = shownProject(get()),
    last = project && recipeAt(project, home)?.steps.findLast((each) => each.kind !== 'invert'),
    tool = finder ?? (last ? toolOf(last) : undefined)
  goToStage('select')
  if (last) workOnStep(home, last.id!, tool)
  else workOnSteps(home)
  if (tool) set({ finder: tool })
  if (finder === 'paint') set({ view: 'plain' })
}

export const maskWhite = (layer: Layer): void => {
  act(`White mask on ${layer.name}`, setMask(layer.id, recipe(step({ kind: 'all' }))))
  openMask(layer.id, 'paint')
  set({ nextOp: 'subtract' })
}
export const maskBlack = (layer: Layer): void => {
  act(`Black mask on ${layer.name}`, setMask(layer.id, recipe(step({ kind: 'none' }))))
  openMask(layer.id, 'paint')
  set({ nextOp: 'add' })
}
export function maskGradient(layer: Layer): void {
  const { width, height } = shownProject(get())!.canvas
  act(
    `Gradient mask on ${layer.name}`,
    setMask(
      layer.id,
      recipe(
        step({ kind: 'gradient', shape: 'linear', from: [width * 0.3, height / 2], to: [width * 0.7, height / 2] }),
      ),
    ),
  )
  openMask(layer.id, 'gradient')
}
export const maskFromLayer = (layer: Layer, other: Layer, use: 'alpha' | 'luminance'): void => {
  act(`Mask from ${other.name}`, setMask(layer.id, recipe(step({ kind: 'layer', layer: other.id, use }))))
}
export const maskFromPicture = (
  layer: Layer,
  asset: string,
  name: string,
  fit: 'canvas' | 'layer' | 'none' = 'canvas',
): void => {
  act(`Mask ${name}`, setMask(layer.id, recipe(step({ kind: 'image', name, asset, fit }))))
  openMask(layer.id)
}
function choosePicture(take: (asset: string, name: string) => void): void {
  choosePictureFiles('mask-picture', false, async ([file]) => {
    if (!file) return
    try {
      const stored = await sendWithProgress(file)
      take(stored.asset, nameOfFile(file))
    } catch (error) {
      tell(error)
    }
  })
}
/** A picture file becomes the mask. */
export const chooseMaskPicture = (layer: Layer): void =>
  choosePicture((asset, name) => maskFromPicture(layer, asset, name))
/** A trimap file is solved, and becomes the mask; the colours of the old backdrop are taken out. */
export const chooseTrimap = (layer: Layer): void =>
  choosePicture((asset, name) => {
    act(
      `Mask by trimap ${name}`,
      setMask(layer.id, recipe(step({ kind: 'trimap', asset, sample: 'layer' })), { fringe: 1 }),
    )
    openMask(layer.id)
  })
export const editMask = (layer: Layer, label: string, change: MaskChange): void => {
  act(label, changeMask(layer.id, change))
}
export const copyMaskTo = (from: Layer, to: Layer): void => {
  act(`Mask of ${from.name} to ${to.name}`, copyMask(from.id, to.id))
}
/** The mask's coverage becomes the selection: a step that looks at the mask, so it follows what the mask becomes. */
export function selectMask(layer: Layer): void {
  const made = step({ kind: 'layer', name: keepable(`Mask of ${layer.name}`), layer: layer.id, use: 'mask' })
  act(`Select by mask of ${layer.name}`, (project) => {
    project.selection.steps = [made as never]
  })
  goToStage('select')
  workOnStep(SELECTION, made.id!)
}
export async function applyMask(layer: Layer): Promise<void> {
  if (await mergeLayers([layer.id], layer.name, `Apply mask of ${layer.name}`, { instead: true }))
    toast.success('The mask was applied; undo brings it back.')
}
/** The coverage of the steps shown, as a grey PNG. */
export async function saveMaskAsPng(layer: Layer): Promise<void> {
  openMask(layer.id)
  try {
    const png = await askEngine((engine, request) => engine.mattePng(request))
    if (!png) return
    saveFile(`${layer.name} mask.png`, png)
  } catch (error) {
    toast.error(`The mask could not be saved: ${sentenceOf(error)}`)
  }
}
