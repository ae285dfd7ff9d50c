/** Renders one export in a thread of its own, so that the server goes on answering. Pictures are decoded when needed and kept only while they are. */
import { rename } from 'node:fs/promises'
import { parentPort, workerData } from 'node:worker_threads'
import sharp from 'sharp'
import { composeRegion } from '@/core/compose/composeRegion'
import { cutOut } from '@/core/compose/cutOut'
import { picturePyramid } from '@/core/raster/levels'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { layerById } from '@/document/edits'
import { type Layer, type Project } from '@/document/types'
import { type DecodedPicture, Studio } from '@/engine/studio'
import { readStored } from '../assets'

export interface ExportTask {
  readonly records: Project
  readonly what: 'composite' | 'cutout'
  readonly layer?: string
  readonly format: 'jpeg' | 'png' | 'webp'
  readonly quality: number
  readonly background: string
  readonly file: string
}
export type ExportMessage = { progress: number } | { done: true } | { failed: string }

/** Results of steps kept while an export runs. */
const MEMORY = 512 * 1024 * 1024
/** Rows composed at a time. */
const STRIP = 256

const send = (message: ExportMessage) => parentPort?.postMessage(message)

const assetsOf = (layers: readonly Layer[]): string[] => [...new Set(layers.flatMap((layer) => [layer.asset, ...(layer.mask ? assetsOf(layer.mask.scene) : [])]))]

async function render(task: ExportTask): Promise<Picture> {
  const { records } = task
  const layers = task.what === 'cutout' ? records.layers.filter((layer) => layer.id === task.layer) : records.layers.filter((layer) => layer.visible)
  const decoded = new Map<string, DecodedPicture>()
  const assets = assetsOf(layers)
  for (const [i, asset] of assets.entries()) {
    const picture = await readStored(asset)
    const opaque = isOpaque(picture)
    decoded.set(asset, { levels: picturePyramid(picture, opaque), opaque })
    send({ progress: (0.4 * (i + 1)) / assets.length })
  }
  const studio = new Studio((asset) => decoded.get(asset)!, MEMORY)
  if (task.what === 'cutout') {
    const layer = layerById(records, task.layer ?? null)
    if (!layer) throw new Error('The layer to cut out is not there any more.')
    const { levels } = decoded.get(layer.asset)!
    const mask = layer.mask?.enabled ? { levels: studio.maskLevels(layer.mask), toCanvas: layer.mask.toLayer } : undefined
    return cutOut(levels[0], mask, (progress) => { send({ progress: 0.5 + 0.3 * progress }) })
  }
  const { width, height } = records.canvas
  const placed = studio.placed(layers)
  const data = new Uint8ClampedArray(width * height * 4)
  for (let y = 0; y < height; y += STRIP) {
    const strip = composeRegion(placed, { level: 0, x: 0, y, width, height: Math.min(STRIP, height - y) })
    data.set(strip.data, y * width * 4)
    send({ progress: 0.5 + (0.3 * y) / height })
  }
  return { width, height, data }
}

async function run(task: ExportTask): Promise<void> {
  const { data, width, height } = await render(task)
  send({ progress: 0.85 })
  const image = sharp(data, { raw: { width, height, channels: 4 } })
  const encoded = task.format === 'jpeg' ? image.flatten({ background: task.background }).jpeg({ quality: task.quality, chromaSubsampling: task.quality >= 90 ? '4:4:4' : '4:2:0' })
    : task.format === 'webp' ? image.webp({ quality: task.quality }) : image.png({ compressionLevel: 6 })
  await encoded.withIccProfile('srgb').toFile(`${task.file}.part`)
  await rename(`${task.file}.part`, task.file)
}

run(workerData as ExportTask).then(() => send({ done: true }), (error: unknown) => send({ failed: error instanceof Error ? error.message : String(error) }))
