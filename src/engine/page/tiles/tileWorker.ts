/** A tile worker, one of several: layers to 256-px tiles, and the selection to what lies over them, both only for what is in view. */
import * as Comlink from 'comlink'
import { luma } from '@/core/compose/adjustments/adjustment'
import { type Node, withPictures } from '@/core/compose/nodes'
import { Renderer } from '@/core/compose/renderer'
import { type Picture, type Size } from '@/core/raster/picture'
import { bitmapOf, matteBitmap, scaled } from '../bitmaps'
import { type SharedPicture, TILE, type TileWorker } from '../protocol'
import { networkWeights } from '../networkWeights'
import { matteOfPng, pngOfMatte } from './storedMatte'
import { ants, overlay, type PlacedMatte } from './overlays'

const pictures = new Map<string, SharedPicture>()
let now = new Renderer(0)
const before = new Renderer(0),
  aside = new Renderer(0)
let canvas: Size = { width: 1, height: 1 }
let shown: PlacedMatte | null = null,
  kept: PlacedMatte | null = null
let epoch: Int32Array = new Int32Array(1)

const decoded = (nodes: readonly Node<string>[]): Node[] => withPictures(nodes, (name) => pictures.get(name) ?? null)

const moved = (bitmap: ImageBitmap) => Comlink.transfer(bitmap, [bitmap])
/** Longer side, about, of what a histogram is counted on. */
const HISTOGRAM_PX = 512
/** The coarsest level that still has so many pixels along its longer side. */
const coarseLevel = (longest: number, size: Size = canvas): number =>
  Math.max(0, Math.floor(Math.log2(Math.max(size.width, size.height) / longest)))
const levelSize = (level: number, size: Size = canvas): Size => ({
  width: Math.ceil(size.width / 2 ** level),
  height: Math.ceil(size.height / 2 ** level),
})
/** What was asked meanwhile is answered before this goes on. */
const othersFirst = (): Promise<void> => new Promise((later) => setTimeout(later))
/** Some nodes over all of a canvas, as small as that. */
function small(nodes: readonly Node<string>[], size: Size, linear: boolean, longest: number): Picture {
  const level = coarseLevel(longest, size)
  aside.show(decoded(nodes), { canvas: size, linear })
  const made = aside.region({ level, x: 0, y: 0, ...levelSize(level, size) })
  aside.show([], { canvas: size }) // holds on to no picture
  return made
}

const api: TileWorker = {
  start(buffer, bytes) {
    epoch = new Int32Array(buffer)
    now = new Renderer(bytes)
  },
  help(port) {
    // It begins to help when it is first asked to: what it was asked meanwhile others have begun.
    const asked: MessageEvent[] = []
    port.onmessage = (message: MessageEvent) => {
      if (asked.push(message) > 1) return
      void Promise.all([import('@/core/parallel/threads'), import('../../tasks'), networkWeights()]).then(
        ([{ helpWith }, { TASKS }]) => {
          helpWith(port, TASKS)
          for (const each of asked) port.onmessage!(each)
        },
        () => (asked.length = 0),
      )
    }
  },
  setPicture(name, picture) {
    pictures.set(name, picture)
  },
  dropPicture(name) {
    pictures.delete(name)
  },
  setLayers(nodes, plain, size, linear) {
    canvas = size
    now.show(decoded(nodes), { canvas, linear })
    before.show(decoded(plain), { canvas, linear })
  },
  setMatte(levels, toCanvas) {
    shown = levels && { levels, toCanvas }
  },
  setKept(levels, toCanvas) {
    kept = levels && { levels, toCanvas }
  },
  async tile(level, x, y, wanted, asCame) {
    if (Atomics.load(epoch, 0) !== wanted) return null
    const size = levelSize(level)
    const width = Math.min(TILE, size.width - x * TILE),
      height = Math.min(TILE, size.height - y * TILE)
    if (width <= 0 || height <= 0) return null
    const { data } = (asCame ? before : now).region({ level, x: x * TILE, y: y * TILE, width, height })
    return moved(bitmapOf(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height)))
  },
  async overlay(view, style) {
    const bitmap = overlay({ shown, kept, canvas }, view, style)
    return bitmap && moved(bitmap)
  },
  async ants(view, phases) {
    const bitmaps = ants(shown, view, phases)
    return Comlink.transfer(bitmaps, bitmaps)
  },
  async pixel(x, y) {
    if (x < 0 || y < 0 || x >= canvas.width || y >= canvas.height) return null
    const { data } = now.region({ level: 0, x, y, width: 1, height: 1 })
    return [data[0], data[1], data[2], data[3]]
  },
  async cover(longest, wanted) {
    const level = coarseLevel(longest),
      size = levelSize(level),
      surface = new OffscreenCanvas(size.width, size.height),
      paint = surface.getContext('2d')!
    for (let y = 0; y < size.height; y += TILE)
      for (let x = 0; x < size.width; x += TILE) {
        await othersFirst()
        if (Atomics.load(epoch, 0) !== wanted) return null
        const width = Math.min(TILE, size.width - x),
          height = Math.min(TILE, size.height - y),
          { data } = now.region({ level, x, y, width, height })
        paint.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), x, y)
      }
    return scaled(surface, longest).convertToBlob({ type: 'image/webp', quality: 0.82 })
  },
  async layerThumbnail(nodes, size, linear, longest) {
    const { data, width, height } = small(nodes, size, linear, longest)
    return moved(
      scaled(
        bitmapOf(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height)),
        longest,
      ).transferToImageBitmap(),
    )
  },
  async histogram(nodes, size, linear) {
    const { data } = small(nodes, size, linear, HISTOGRAM_PX)
    const [red, green, blue, light] = [0, 1, 2, 3].map(() => new Uint32Array(256))
    for (let i = 0; i < data.length; i += 4) {
      if (data[i + 3] === 0) continue
      red[data[i]]++
      green[data[i + 1]]++
      blue[data[i + 2]]++
      light[Math.round(luma(data[i], data[i + 1], data[i + 2]))]++
    }
    return [red, green, blue, light]
  },
  async keepResult({ address, version, matte }) {
    const response = await fetch(address, {
      method: 'PUT',
      body: await pngOfMatte(matte),
      headers: { 'x-version': version },
    }).catch(() => null) // found anew another time
    return Boolean(response?.ok)
  },
  async readResult(address) {
    try {
      const response = await fetch(address)
      return response.ok ? await matteOfPng(await response.arrayBuffer()) : null
    } catch {
      return null // found anew
    }
  },
  async matteThumbnail(levels, longest) {
    return moved(matteBitmap(levels, longest))
  },
}

Comlink.expose(api)
