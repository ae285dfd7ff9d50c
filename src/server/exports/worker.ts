/** Renders one export in a thread of its own, so that the server goes on answering. Pictures are decoded when needed and kept only while they are. */
import { rename } from 'node:fs/promises'
import { parentPort, workerData } from 'node:worker_threads'
import sharp from 'sharp'
import { cutOut } from '@/core/compose/cutOut'
import { type Crew } from '@/core/parallel/crew'
import { type Picture } from '@/core/raster/picture'
import { resize } from '@/core/raster/resize'
import { layerById } from '@/document/edits'
import { isShown, picturesOf, sceneOfArea, sceneOfProject, withDescendants } from '@/document/tree'
import { type Area, type Layer } from '@/document/types'
import { restore } from '@/engine/storedResults'
import { Studio } from '@/engine/studio'
import { closeDatabase } from '../database/connection'
import { assetFile } from '../files'
import { type ExportInput } from '../inputs'
import { PictureFiles } from '../pictures/parts'
import { isDiskFull } from '../problems'
import { recordsOf } from '../projects'
import { storedResults } from '../results'
import { helped } from './helped'

/** What is asked, and the file it goes to: the canvas as it shows, a picture layer cut out, or some layers as one picture of the canvas's size. */
export type ExportTask = ExportInput & { readonly file: string }
export type ExportMessage = { progress: number } | { done: true } | { failed: string }

/** Results of steps kept while an export runs. */
const MEMORY = 192 * 1024 * 1024

const send = (message: ExportMessage) => parentPort?.postMessage(message)

async function render(task: ExportTask, crew: Crew): Promise<Picture> {
  const records = await recordsOf(task.project, task.head)
  const stored = await storedResults(task.project)
  await closeDatabase()
  const layer = layerById(records, task.layer ?? null)
  if (task.what === 'cutout' && layer?.kind !== 'picture') throw new Error('The layer to cut out is not a picture.')
  const whole = sceneOfProject(records)
  const scene = task.what === 'merge' ? { ...whole, layers: onlyThese(whole.layers, task.layers ?? []) } : whole
  const shown = task.what === 'cutout' ? [layer!] : scene.layers.filter((each) => isShown(scene.layers, each.id))
  const named = task.selected ? picturesOf(whole, records.selection.steps) : picturesOf({ ...scene, layers: shown })
  const pictures = await PictureFiles.create(`${task.file}.parts`)
  try {
    for (const [i, { asset }] of named.entries()) {
      await pictures.add(asset, assetFile(asset))
      send({ progress: (0.4 * (i + 1)) / named.length })
    }
    const studio = new Studio(pictures.all, MEMORY, { crew, draw: pictures.draw })
    // What took long in the page is not found again here.
    for (const area of areasOf(shown))
      await restore(area.recipe.steps, studio.scene(sceneOfArea(area, scene.scenes)), studio.memory, stored)
    if (task.selected) await restore(records.selection.steps, studio.scene(whole), studio.memory, stored)
    if (task.what === 'cutout' && layer?.kind === 'picture') {
      const { mask } = layer
      const placed = mask?.enabled
        ? {
            ...studio.mask(mask, scene.scenes),
            toCanvas: mask.toLayer,
            strength: mask.strength,
            invert: mask.invert,
            outsideShown: mask.outsideShown,
          }
        : undefined
      return cutOut(
        pictures.all(layer.asset).levels[0],
        placed,
        { amount: mask?.fringe ?? 0, rim: mask?.rim ?? 0 },
        (progress) => {
          send({ progress: 0.5 + 0.3 * progress })
        },
        crew,
      )
    }
    const check = (progress: number) => {
      send({ progress: 0.4 + 0.4 * progress })
    }
    if (task.what === 'composite') return studio.deliver(records, check)
    const picture = studio.compose(scene, check)
    if (task.selected) {
      const matte = studio.matte(records.selection.steps, studio.scene(whole), () => {})
      for (let i = 0; i < matte.data.length; i++)
        picture.data[i * 4 + 3] = Math.round((picture.data[i * 4 + 3] * matte.data[i]) / 255)
    }
    return picture
  } finally {
    await pictures.close()
  }
}

/** Masks and pieces of paint. */
const areasOf = (layers: readonly Layer[]): Area[] =>
  layers.flatMap((layer) => [
    ...(layer.mask?.enabled ? [layer.mask] : []),
    ...(layer.kind === 'paint' ? layer.items.map((item) => item.area) : []),
  ])

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

function smaller(picture: Picture, longest: number | undefined): Picture {
  const scale = longest ? longest / Math.max(picture.width, picture.height) : 1
  return scale < 1
    ? resize(picture, {
        width: Math.max(1, Math.round(picture.width * scale)),
        height: Math.max(1, Math.round(picture.height * scale)),
      })
    : picture
}

async function run(task: ExportTask): Promise<void> {
  const { data, width, height } = smaller(await render(task, helped()), task.longest)
  send({ progress: 0.85 })
  const image = sharp(data, { raw: { width, height, channels: 4 } })
  const encoded =
    task.format === 'jpeg'
      ? image
          .flatten({ background: task.background })
          .jpeg({ quality: task.quality, chromaSubsampling: task.quality >= 90 ? '4:4:4' : '4:2:0' })
      : task.format === 'webp'
        ? image.webp({ quality: task.quality })
        : image.png({ compressionLevel: 6 })
  await (task.what === 'merge' ? encoded : encoded.withIccProfile('srgb')).toFile(`${task.file}.part`)
  await rename(`${task.file}.part`, task.file)
}

run(workerData as ExportTask).then(
  () => send({ done: true }),
  (error: unknown) =>
    send({
      failed: isDiskFull(error) ? 'the server’s disk is full.' : error instanceof Error ? error.message : String(error),
    }),
)
