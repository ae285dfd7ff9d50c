/** What the photo worked on measures: looked at once for each photo and sky mask, shown in the left column and used by the skies' fit. */
import { useEffect } from 'react'
import { create } from 'zustand'
import { canonicalJson } from '@/core/fields/canonical'
import { type Step } from '@/core/steps/registry'
import { oldSky, photoAlone } from '@/document/newSky'
import { newSkyAt, type NewSkyLayers } from '@/document/newSkyParts'
import { scenesNamed, sceneOfArea, sceneOfProject } from '@/document/tree'
import { type PictureLayer, type Project } from '@/document/records'
import { type PhotoMeasured } from '@/engine/page/protocol'
import { get, shownProject } from '@/ui/store/bench'
import { newId } from '@/ui/layers/layerActions'
import { askLayers } from '@/ui/store/rendering'

interface Measured {
  /** Of which photo: see `keyOf`. */
  readonly photo: string
  readonly state: 'looking' | 'done' | 'stopped'
  /** As what, and by which steps its sky was found: see `askedOf`. */
  readonly asked: string
  readonly found: PhotoMeasured | null
}
export const usePhoto = create<Measured>(() => ({ photo: '', state: 'looking', asked: '', found: null }))

/** Tells a photo from those of other projects, and from another picture in its place. */
export const keyOf = ({ id, asset }: PictureLayer): string => `${get().id} ${id} ${asset}`

/** The question on its way: whoever asks about the same photo waits for it instead of asking again, which would call it off. */
let asking: { readonly photo: string; readonly answer: Promise<PhotoMeasured | null> } | null = null

/** What a photo measures; null where it cannot be had now. */
export async function measuresOf(layer: PictureLayer): Promise<PhotoMeasured | null> {
  const photo = keyOf(layer)
  if (asking?.photo === photo) return asking.answer
  const known = usePhoto.getState()
  return known.photo === photo && known.state === 'done' ? known.found : look(layer.id)
}

async function look(layer: string): Promise<PhotoMeasured | null> {
  const project = shownProject(get()),
    parts = project ? newSkyAt(project.layers, layer) : undefined
  if (!project || !parts) return null
  const photo = keyOf(parts.photo),
    sky = oldSky(parts, newId),
    asked = askedOf(project, parts, sky.steps),
    known = usePhoto.getState()
  // A new sky's land is masked by the very steps that were measured: asked anew, they would stop their edge from being solved.
  if (!asking && known.photo === photo && known.state === 'done' && known.asked === asked) return known.found
  usePhoto.setState((before) => ({ photo, state: 'looking', found: before.photo === photo ? before.found : null }))
  const mine = { photo, answer: measureNow(project, parts, sky).catch(() => null) }
  asking = mine
  const found = await mine.answer
  // A newer question has its own answer.
  if (asking !== mine) return found
  asking = null
  usePhoto.setState(found ? { state: 'done', asked, found } : { state: 'stopped' })
  return found
}

/** Of the layer worked on. */
export const lookAgain = (): void => void look(shownProject(get())?.activeLayer ?? '')

/** Looks at a photo when it is first shown here, and anew when the mask that leaves its sky out is another. */
export function useMeasuring(photo: PictureLayer | undefined, mask: unknown): void {
  const id = photo?.id,
    key = photo && keyOf(photo)
  useEffect(() => {
    if (id) void look(id)
  }, [id, key, mask])
}

/** What decides what is measured: the photo as it lies on the canvas, and the steps that find its sky, whatever they are called and kept with. */
const askedOf = ({ layers, canvas, linear }: Project, { photo }: NewSkyLayers, steps: readonly Step[]): string =>
  canonicalJson([
    photoAlone(layers, photo.id),
    canvas,
    linear,
    steps.map((step) => ({ ...step, id: undefined, scene: undefined, sceneLayer: undefined })),
  ])

/** Null when nothing is open, or a newer question overtook this one. */
function measureNow(
  project: Project,
  parts: NewSkyLayers,
  { steps, area }: ReturnType<typeof oldSky>,
): Promise<PhotoMeasured | null> {
  // The photo by itself, and the steps that find its sky: those of the land's mask look at what that was made on.
  const now = sceneOfProject(project),
    scene = area
      ? sceneOfArea(area, now.scenes)
      : { ...now, layers: photoAlone(now.layers, parts.photo.id), active: parts.photo.id }
  return (
    askLayers((engine) => engine.measure({ ...scene, scenes: scenesNamed(scene, steps), steps, prepare: null })) ??
    Promise.resolve(null)
  )
}
