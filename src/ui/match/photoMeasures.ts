/** What the photo worked on measures: looked at once for each photo and sky mask, shown in the left column and used by the skies' fit. */
import { useEffect } from 'react'
import { create } from 'zustand'
import { newSkyAt, type NewSkyLayers, oldSky, photoAlone } from '@/document/newSky'
import { scenesNamed, sceneOfArea, sceneOfProject } from '@/document/tree'
import { type Project } from '@/document/types'
import { type PhotoMeasured } from '@/engine/page/protocol'
import { get, shownProject } from '@/ui/store/bench'
import { newId } from '@/ui/layers/layerActions'
import { askLayers } from '@/ui/store/rendering'

interface Measured {
  /** Of which photo. */
  readonly photo: string
  readonly state: 'looking' | 'done' | 'stopped'
  readonly found: PhotoMeasured | null
}
export const usePhoto = create<Measured>(() => ({ photo: '', state: 'looking', found: null }))

/** What the photo of that layer measures; null where it cannot be had now. */
export async function measuresOf(photo: string): Promise<PhotoMeasured | null> {
  const known = usePhoto.getState()
  if (known.photo === photo && known.state === 'done') return known.found
  return look(photo)
}

async function look(photo: string): Promise<PhotoMeasured | null> {
  const project = shownProject(get()),
    parts = project ? newSkyAt(project.layers, photo) : undefined
  if (!project || !parts) return null
  usePhoto.setState((before) => ({ photo, state: 'looking', found: before.photo === photo ? before.found : null }))
  const found = await measureNow(project, parts).catch(() => null)
  if (usePhoto.getState().photo === photo) usePhoto.setState(found ? { state: 'done', found } : { state: 'stopped' })
  return found
}

export const lookAgain = (): void => void look(usePhoto.getState().photo)

/** Looks at a photo when it is first shown here, and anew when the mask that leaves its sky out is another. */
export function useMeasuring(photo: string | undefined, mask: unknown): void {
  useEffect(() => {
    if (photo) void look(photo)
  }, [photo, mask])
}

/** Null when nothing is open, or a newer question overtook this one. */
function measureNow(project: Project, parts: NewSkyLayers): Promise<PhotoMeasured | null> {
  // The photo by itself, and the steps that find its sky: those of the land's mask look at what that was made on.
  const { steps, area } = oldSky(parts, newId),
    now = sceneOfProject(project),
    scene = area
      ? sceneOfArea(area, now.scenes)
      : { ...now, layers: photoAlone(now.layers, parts.photo.id), active: parts.photo.id }
  return (
    askLayers((engine) => engine.measure({ ...scene, scenes: scenesNamed(scene, steps), steps, prepare: null })) ??
    Promise.resolve(null)
  )
}
