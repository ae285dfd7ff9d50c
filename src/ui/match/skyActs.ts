/** Brings a sky of the library into the photo worked on, or the next one in the place of what there is. */
import { toast } from 'sonner'
import { type Affine, apply } from '@/core/raster/affine'
import { type Measures } from '@/core/match/measure'
import { newSkyOf, reflectionOf, skyPlacement } from '@/core/match/newSky'
import { type SkyPicture } from '@/core/match/skyPicture'
import { placeLayer } from '@/document/layers'
import {
  exchangeSky,
  replaceSky,
  skyInWater,
  skySteps,
  moveHorizon,
  sureWaterSteps,
  waterSteps,
} from '@/document/newSky'
import { newSkyAt, type NewSkyLayers } from '@/document/newSkyParts'
import { type Edit } from '@/document/history'
import { type LibraryPicture } from '@/document/library'
import { type Picture, type Project } from '@/document/records'
import { newId } from '@/ui/layers/layerActions'
import { act, actInBurst, get, goToStage, shownProject } from '@/ui/store/bench'
import { type BenchState } from '@/ui/store/benchState'
import { libraryOf } from '@/ui/store/library'
import { measuresOf, usePhoto } from './photoMeasures'
import { rankedSkies, useSkyDock } from './skyLibrary'

/** Why no sky can be brought in now; nothing when it can. */
export function skyProblem(project: Project | null): string | undefined {
  if (!project || !newSkyAt(project.layers, project.activeLayer)) return 'Choose the photo in the list of layers first.'
  return undefined
}

/** The sky of the library that the photo worked on has now. */
export function skyThere(
  parts: NewSkyLayers | undefined,
  skies: readonly LibraryPicture[] | undefined,
): LibraryPicture | undefined {
  return parts?.sky && skies?.find(({ asset }) => asset === parts.sky!.asset)
}

/** px that the horizon may lie off where it was measured and still be that. */
const SAME = 1

/** The horizon as the editor has put it: where the sky's own lies now. The measured one where there is no sky, or it lies there. */
export function withHorizonOf(measures: Measures, parts: NewSkyLayers, there: LibraryPicture | undefined): Measures {
  if (!measures.horizon || !parts.sky || !there?.reads) return measures
  const { horizonY } = there.reads,
    usual = newSkyOf(measures, there.reads),
    [, y] = apply(parts.sky.placement, 0, horizonY)
  return !usual || Math.abs(y - apply(usual.placement, 0, horizonY)[1]) <= SAME
    ? measures
    : { ...measures, horizon: { ...measures.horizon, y } }
}

/** The sky laid anew with its horizon on a row of the canvas, as large as covers. */
export function layHorizon(measures: Measures, parts: NewSkyLayers, reads: SkyPicture, y: number): Edit {
  const mirrored = isMirrored(parts.sky!.placement),
    lay = placeLayer(
      parts.sky!.id,
      skyPlacement(measures.size, { ...measures.horizon!, y }, reads, measures.skyBottom, mirrored),
    )
  return (project) => {
    lay(project)
    moveHorizon(parts, y)(project)
  }
}
export const isMirrored = ([a, b, c, d]: Affine): boolean => a * d - b * c < 0

/** The same names each time the change is shown or done, so that what is made for it stands. */
function sameIds(edit: (newId: () => string) => Edit): Edit {
  const ids: string[] = []
  return (project) => {
    let k = 0
    edit(() => (ids[k++] ??= newId()))(project)
  }
}

/** Whether anything is selected, and that is worked on. */
export const isSomeSelected = ({ home, result }: BenchState): boolean =>
  home.kind === 'selection' && (result?.selected ?? 0) > 0

/** What is selected, or else the photo's water, mirrors the sky there is, in the library or not. */
export async function mirrorSky(): Promise<void> {
  const bench = get().id,
    project = shownProject(get()),
    before = project ? newSkyAt(project.layers, project.activeLayer) : undefined,
    photo = before && (await measuresOf(before.photo))
  if (!before || get().id !== bench) return
  const parts = newSkyAt(shownProject(get())?.layers ?? [], before.photo.id),
    relight = parts?.light?.measured
  if (!photo || !parts || relight?.kind !== 'relight') {
    toast('The photo could not be measured now.')
    return
  }
  const { size, horizon, light } = withHorizonOf(photo.measures, parts, skyThere(parts, libraryOf('sky')))
  if (horizon && light)
    act(
      'Sky in the water',
      skyInWater(
        parts,
        reflectionOf(size, horizon, light.sky, relight),
        newId,
        photo.water.is !== 'none' && !isSomeSelected(get()) ? waterSteps(newId) : [],
      ),
    )
  else toast.error(photo.problem ?? 'The photo has no sky that could be mirrored.')
}

let asked = 0
/** Shown at once; several in a row are one change. */
export async function bringSky(sky: LibraryPicture): Promise<void> {
  const mine = ++asked,
    bench = get().id,
    project = shownProject(get()),
    before = project ? newSkyAt(project.layers, project.activeLayer) : undefined
  if (!before) {
    toast(skyProblem(project) ?? '')
    return
  }
  const photo = await measuresOf(before.photo)
  if (mine !== asked || get().id !== bench || !photo) return
  if (photo.problem) {
    toast.error(photo.problem)
    return
  }
  // What is there now counts: the group may have gone while the photo was looked at.
  const parts = newSkyAt(shownProject(get())?.layers ?? [], before.photo.id)
  if (!parts || !sky.reads) return
  const { asset, name, width, height, ppi } = sky,
    picture: Picture = { asset, name, width, height, ppi },
    plan = newSkyOf(withHorizonOf(photo.measures, parts, skyThere(parts, libraryOf('sky'))), sky.reads)
  if (!plan) return
  if (parts.sky && parts.light) {
    const there = { ...parts, sky: parts.sky, light: parts.light },
      label = `Exchange the sky for ${name}`,
      edit = sameIds((id) => exchangeSky(there, picture, plan, id))
    actInBurst(label, edit, `sky of ${parts.photo.id}`)
  } else
    act(
      `New sky ${name}`,
      replaceSky(
        parts.photo.id,
        picture,
        skySteps(parts.photo, newId),
        plan,
        newId,
        sureWaterSteps(photo.water, newId),
      ),
    )
  goToStage('match')
}

/** The next of the skies as they are listed, or the one before; the first or last where none of them is there. */
export function stepSky(by: number): void {
  const project = shownProject(get()),
    parts = project ? newSkyAt(project.layers, project.activeLayer) : undefined,
    skies = libraryOf('sky'),
    { group } = useSkyDock.getState(),
    ranked = rankedSkies(skies ?? [], usePhoto.getState().found?.measures, group),
    at = ranked.findIndex(({ sky }) => sky.asset === parts?.sky?.asset),
    next = ranked.at(at < 0 && by < 0 ? -1 : at + by)?.sky
  if (next && at + by < ranked.length && (at < 0 || at + by >= 0)) void bringSky(next)
}
