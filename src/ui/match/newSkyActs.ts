/** Measures the photo worked on and brings another sky into it. */
import { toast } from 'sonner'
import { type Measures } from '@/core/match/measure'
import { exchangeSky, newSkyAt, type NewSkyLayers, oldSky, replaceSky, skySteps } from '@/document/newSky'
import { scenesNamed, sceneOfArea, sceneOfProject } from '@/document/tree'
import { type Picture, type Project } from '@/document/types'
import { type SelectRequest } from '@/engine/page/protocol'
import { newId } from '@/ui/layers/layerActions'
import { choosePictureFiles, nameOfFile, sendWithProgress, tell } from '@/ui/store/addPictures'
import { act, get, set, shownProject } from '@/ui/store/bench'
import { askLayers } from '@/ui/store/rendering'

/** The photo by itself, and the steps that find its sky: those of the land's mask look at what that was made on. */
function requestOf(project: Project, parts: NewSkyLayers): SelectRequest {
  const { steps, area } = oldSky(parts, newId),
    now = sceneOfProject(project),
    scene = area ? sceneOfArea(area, now.scenes) : { ...now, active: parts.photo.id }
  return { ...scene, scenes: scenesNamed(scene, steps), steps, prepare: null }
}

/** Null when nothing is open, or a newer question overtook this one. */
export function measureNow(project: Project, parts: NewSkyLayers): Promise<Measures | null> {
  return askLayers((engine) => engine.measure(requestOf(project, parts))) ?? Promise.resolve(null)
}

/** Asks for a picture of a sky and puts it behind the land. */
export const chooseSky = (): void =>
  choosePictureFiles('new-sky', false, ([file]) => {
    if (file) void bringSky(file)
  })

/** Why no sky can be brought in now; nothing when it can. */
export function skyProblem(project: Project | null): string | undefined {
  if (!project || !newSkyAt(project.layers, project.activeLayer)) return 'Choose the photo in the list of layers first.'
  return undefined
}

async function bringSky(file: File): Promise<void> {
  const bench = get().id,
    asked = newSkyAt(shownProject(get())?.layers ?? [], shownProject(get())?.activeLayer ?? null)
  if (!asked) return
  try {
    const { asset, width, height, ppi } = await sendWithProgress(file),
      picture: Picture = { asset, width, height, ppi, name: nameOfFile(file) }
    const project = shownProject(get())
    if (get().id !== bench || !project) return
    const plan = await askLayers((engine) => engine.newSky(requestOf(project, asked), asset))
    if (get().id !== bench || plan === null) return
    if (typeof plan === 'string') {
      toast.error(`${picture.name}: ${plan}`, { duration: 12_000 })
      return
    }
    // What is there now counts: the group may have gone while the sky was looked at.
    const parts = newSkyAt(shownProject(get())?.layers ?? [], asked.photo.id)
    if (!parts) return
    if (parts.sky && parts.light)
      act(
        `Exchange the sky for ${picture.name}`,
        exchangeSky({ ...parts, sky: parts.sky, light: parts.light }, picture, plan, newId),
      )
    else act(`New sky ${picture.name}`, replaceSky(parts.photo.id, picture, skySteps(parts.photo, newId), plan, newId))
    set({ stage: 'match' })
    if (plan.mirrored) toast.info('The sky is mirrored: its light comes from the photo’s side.')
  } catch (error) {
    tell(error)
  }
}
