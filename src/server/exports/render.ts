/** Makes one export, in a worker's thread. Pictures are decoded when needed and kept only while they are. */
import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { type CostlyResult } from '@/core/select/finder'
import { cutOut } from '@/core/compose/cutOut'
import { type Crew } from '@/core/parallel/crew'
import { type DeepPicture, type Matte, type Picture } from '@/core/raster/picture'
import { reduced } from '@/core/raster/reduce'
import { faithfulOutline } from '@/core/vector/faithfulOutline'
import { pathData } from '@/core/vector/path'
import { layerById } from '@/document/edits'
import { isShown } from '@/document/shown'
import { picturesOf, sceneOfArea, sceneOfProject, withDescendants } from '@/document/tree'
import { type Area, type Layer, type PictureLayer, type Project } from '@/document/records'
import { nameOf, restore } from '@/engine/storedResults'
import { Studio } from '@/engine/studio'
import { type Task, RESULT } from '../jobs/task'
import { writeOpenRaster } from '../openRaster/write'
import { writePicture, greyPng } from '../pictures/encode'
import { exifOf } from '../pictures/exif'
import { PictureFiles } from '../pictures/parts'
import { writeProjectFile } from '../projectFile/write'
import { recordsOf } from '../projects'
import { Problem } from '../problems'
import { keepResult, storedResults } from '../results'
import { KEYS } from '../storage/keys'
import { storage } from '../storage/store'
import { type Drawn, type Progress } from './drawn'
import { during } from './during'

type ExportTask = Extract<Task, { kind: 'export' }>

/** Results of steps kept while an export runs. */
const MEMORY = 192 * 1024 * 1024
/** Curves of an outline keep so near to the matte, px; finer than what is seen. */
const OUTLINE_TOLERANCE = 0.1

/** Writes the file. @returns what is to be kept of it beside the file */
export async function makeExport(task: ExportTask, crew: Crew, progress: Progress): Promise<object> {
  const { input, folder } = task,
    file = join(folder, RESULT)
  await mkdir(folder, { recursive: true })
  const records = await recordsOf(input.project, input.head)
  if (input.what === 'project') {
    await writeProjectFile(input.project, input.head, file, progress)
    return {}
  }
  const pictures = await PictureFiles.create(join(folder, 'pictures'))
  try {
    const costly: CostlyResult[] = [],
      studio = new Studio(pictures.all, MEMORY, {
        crew,
        draw: pictures.draw,
        costly: (result) => {
          const held = costly.reduce((sum, { matte }) => sum + matte.data.byteLength, result.matte.data.byteLength)
          if (held <= MEMORY) costly.push(result)
        },
      })
    const drawn: Drawn = { records, studio, pictures }
    await bring(task, drawn, (fraction) => progress(0.35 * fraction))
    const made = await written(task, drawn, crew, file, progress)
    await keepCostly(input.project, costly)
    return made
  } finally {
    await pictures.close()
  }
}

/** Draws and writes what is asked. */
async function written(task: ExportTask, drawn: Drawn, crew: Crew, file: string, progress: Progress): Promise<object> {
  const { input } = task,
    { records } = drawn
  const draw = (fraction: number) => progress(0.35 + 0.4 * fraction),
    write = (fraction: number) => progress(0.75 + 0.24 * fraction)
  switch (input.what) {
    case 'layers':
      await writeOpenRaster(drawn, file, (fraction) => progress(0.35 + 0.64 * fraction))
      return {}
    case 'matte':
      await during(
        matteOf(task, drawn, draw).then((matte) => greyPng(matte, input.depth ?? 8).toFile(file)),
        records.canvas,
        write,
      )
      return {}
    case 'outline': {
      const matte = await matteOf(task, drawn, draw)
      await outline(matte, file, write)
      return {}
    }
    case 'merge': {
      await during(
        writePicture(mergedOf(task, drawn, draw), { format: 'png', quality: 100, background: '#ffffff' }, file),
        records.canvas,
        write,
      )
      return { mergedAs: records.name }
    }
    case 'composite':
    case 'cutout': {
      const picture = input.what === 'cutout' ? cutOutOf(task, drawn, crew, draw) : compositeOf(task, drawn, draw)
      const photo = input.exif ? photoOf(task, records) : undefined,
        original = photo && (await storage().local(KEYS.picture(photo.asset)))
      await during(
        writePicture(
          picture,
          {
            format: input.format,
            quality: input.quality,
            background: input.background,
            ppi: records.ppi,
            exif: original === undefined ? undefined : await exifOf(original),
          },
          file,
        ),
        picture,
        write,
      )
      return {}
    }
  }
  throw new Problem(422, 'There is no such export.')
}

/** What took long is not found again by the next export, nor by a page that opens the project. */
async function keepCostly(project: string, costly: readonly CostlyResult[]): Promise<void> {
  for (const { key, version, matte } of costly)
    await keepResult(project, await nameOf(key), version, await greyPng(matte, 8).toBuffer()).catch(() => {})
}

/** Layers that are drawn: those chosen (or visible), as if there were no others. */
function layersOf({ input }: ExportTask, { layers }: Project): readonly Layer[] {
  return input.layers?.length ? onlyThese(layers, input.layers) : layers
}

/** The pictures that will be looked at, decoded; and what took long in the page, so that it is not found again. */
async function bring(task: ExportTask, { records, studio, pictures }: Drawn, progress: Progress): Promise<void> {
  const { input } = task,
    whole = sceneOfProject(records),
    layer = layerById(records, input.layer ?? null)
  const shown =
    input.what === 'cutout' || ((input.what === 'matte' || input.what === 'outline') && layer)
      ? [layer!]
      : input.what === 'layers'
        ? records.layers
        : layersOf(task, records).filter((each, _, all) => isShown(all, each.id))
  const ofSelection = input.selected || ((input.what === 'matte' || input.what === 'outline') && !layer)
  const named = ofSelection ? picturesOf(whole, records.selection.steps) : picturesOf({ ...whole, layers: shown })
  for (const [i, { asset, width = 0, height = 0 }] of named.entries()) {
    const add = async () => pictures.add(asset, await storage().local(KEYS.picture(asset)))
    await during(add(), { width, height }, (fraction) => progress((i + fraction) / named.length))
  }
  const stored = await storedResults(input.project)
  for (const area of areasOf(shown))
    await restore(area.recipe.steps, studio.scene(sceneOfArea(area, whole.scenes)), studio.memory, stored)
  if (ofSelection) await restore(records.selection.steps, studio.scene(whole), studio.memory, stored)
}

/** Masks and pieces of paint. */
const areasOf = (layers: readonly Layer[]): Area[] =>
  layers.flatMap((layer) => [
    ...(layer.mask?.enabled ? [layer.mask] : []),
    ...(layer.kind === 'paint' ? layer.items.map((item) => item.area) : []),
  ])

function compositeOf(task: ExportTask, { records, studio }: Drawn, check: Progress): Picture | DeepPicture {
  const layers = layersOf(task, records)
  const { depth, longest } = task.input
  if (depth === 16) return reduced(studio.deliverDeep(records, check, layers), longest)
  return reduced(studio.deliver(records, check, layers), longest)
}

function cutOutOf({ input }: ExportTask, { records, studio, pictures }: Drawn, crew: Crew, check: Progress): Picture {
  const layer = layerById(records, input.layer ?? null)
  if (layer?.kind !== 'picture') throw new Problem(422, 'The layer to cut out is not a picture.')
  const { mask } = layer,
    placed = mask?.enabled
      ? {
          ...studio.mask(mask, sceneOfProject(records).scenes),
          toCanvas: mask.toLayer,
          strength: mask.strength,
          invert: mask.invert,
          outsideShown: mask.outsideShown,
        }
      : undefined
  const fringe = { amount: mask?.fringe ?? 0, rim: mask?.rim ?? 0 }
  return reduced(cutOut(pictures.all(layer.asset).levels[0], placed, fringe, check, crew), input.longest)
}

function mergedOf({ input }: ExportTask, { records, studio }: Drawn, check: Progress): Picture {
  const whole = sceneOfProject(records),
    picture = studio.compose({ ...whole, layers: onlyThese(whole.layers, input.layers ?? []) }, check)
  if (input.selected) {
    const matte = studio.matte(records.selection.steps, studio.scene(whole), () => {})
    for (let i = 0; i < matte.data.length; i++)
      picture.data[i * 4 + 3] = Math.round((picture.data[i * 4 + 3] * matte.data[i]) / 255)
  }
  return picture
}

/** A layer's mask as it lies on the canvas, or the selection. */
async function matteOf({ input }: ExportTask, { records, studio }: Drawn, check: Progress): Promise<Matte> {
  const whole = sceneOfProject(records)
  if (!input.layer) {
    if (!records.selection.steps.length) throw new Problem(422, 'Nothing is selected.')
    return studio.matte(records.selection.steps, studio.scene(whole), check)
  }
  const mask = studio.scene(whole, check).layer?.(input.layer)?.mask()
  if (!mask) throw new Problem(422, 'There is no such layer.')
  return mask
}

async function outline(matte: Matte, file: string, check: Progress): Promise<void> {
  const { width, height } = matte,
    d = pathData(faithfulOutline(matte, OUTLINE_TOLERANCE, check))
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">\n<path fill-rule="nonzero" d="${d}"/>\n</svg>\n`
  await writeFile(file, svg)
}

/** Whose data goes along: the photo that is cut out, or the lowest one that shows. */
function photoOf(task: ExportTask, records: Project): PictureLayer | undefined {
  const layers =
    task.input.what === 'cutout' ? records.layers.filter(({ id }) => id === task.input.layer) : layersOf(task, records)
  return layers.find((each): each is PictureLayer => each.kind === 'picture' && isShown(layers, each.id))
}

/** Some layers of one group and what lies in them, as if there were no others. */
function onlyThese(layers: readonly Layer[], ids: readonly string[]): Layer[] {
  const kept = new Set(ids.flatMap((id) => withDescendants(layers, id).map((each) => each.id)))
  return layers
    .filter((each) => kept.has(each.id))
    .map((each) => {
      if (!ids.includes(each.id)) return each
      const { parent, ...rest } = each
      void parent
      return rest
    })
}
