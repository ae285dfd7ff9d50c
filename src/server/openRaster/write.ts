/**
 * OpenRaster files: a zip with `mimetype` first and stored, stack.xml, a PNG for each layer, the merged picture and a thumbnail.
 * Source: OpenRaster specification 0.0.6, "File Layout" and "Layer Stack".
 */
import { createWriteStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import { XMLBuilder } from 'fast-xml-parser'
import sharp from 'sharp'
import { ZipFile } from 'yazl'
import { cropPicture } from '@/core/raster/crop'
import { type Picture } from '@/core/raster/picture'
import { boundsOf } from '@/core/raster/tally'
import { type OraNode, openRasterTree } from '@/document/openRasterTree'
import { type Project } from '@/document/records'
import { windowSize } from '@/document/window'
import { during } from '../exports/during'
import { type Drawn, type Progress } from '../exports/drawn'
import { OUR_NAMESPACE } from './names'

/** By the specification, px. */
const THUMBNAIL_SIDE = 256

/** An element as the XML library takes it: attributes begin with "@". */
type Element = Readonly<Record<string, unknown>>

export async function writeOpenRaster({ records, studio }: Drawn, file: string, progress: Progress): Promise<void> {
  const tree = openRasterTree(records.layers),
    size = windowSize(records),
    count = countOf(tree) + 1
  const zip = new ZipFile(),
    written = pipeline(zip.outputStream, createWriteStream(file))
  written.catch(() => {}) // awaited below
  zip.addBuffer(Buffer.from('image/openraster'), 'mimetype', { compress: false })
  let made = 0
  const step = async (
    name: string,
    draw: (check: Progress) => Picture,
  ): Promise<{ x: number; y: number } & Picture> => {
    const from = made / count,
      part = (fraction: number) => progress(from + fraction / count)
    const whole = draw((fraction) => part(0.6 * fraction)),
      box = boundsOf(alphaOf(whole)) ?? { x: 0, y: 0, width: 1, height: 1 },
      cut = name === MERGED ? whole : cropPicture(whole, box)
    const png = await during(pngOf(cut), cut, (fraction) => part(0.6 + 0.4 * fraction))
    zip.addBuffer(png, name, { compress: false }) // it is compressed already
    made++
    return { x: box.x, y: box.y, ...cut }
  }
  const element = async (node: OraNode): Promise<Element> => {
    const common = {
      '@name': node.name,
      '@opacity': String(Math.round(node.opacity * 1e6) / 1e6),
      '@visibility': node.visible ? 'visible' : 'hidden',
      '@composite-op': node.operator,
    }
    if (node.kind === 'stack')
      return {
        stack: await elementsOf(node.children),
        ':@': { ...common, '@isolation': node.isolated ? 'isolate' : 'auto' },
      }
    const src = `data/layer${String(made).padStart(3, '0')}.png`,
      { x, y } = await step(src, (check) => studio.deliver(records, check, node.draw))
    return { layer: [], ':@': { ...common, '@src': src, '@x': String(x), '@y': String(y) } }
  }
  /** The uppermost first. */
  const elementsOf = async (nodes: readonly OraNode[]): Promise<Element[]> => {
    const out: Element[] = []
    for (const node of nodes.toReversed()) out.push(await element(node))
    return out
  }
  const stack = await elementsOf(tree)
  zip.addBuffer(Buffer.from(xmlOf(records, size, stack)), 'stack.xml')
  const merged = await step(MERGED, (check) => studio.deliver(records, check))
  const small = await sharp(merged.data, { raw: { ...size, channels: 4 } })
    .resize(THUMBNAIL_SIDE, THUMBNAIL_SIDE, { fit: 'inside', withoutEnlargement: true })
    .png()
    .toBuffer()
  zip.addBuffer(small, 'Thumbnails/thumbnail.png', { compress: false })
  zip.end()
  await written
}
const MERGED = 'mergedimage.png'

function xmlOf(
  { ppi, linear }: Project,
  { width, height }: { width: number; height: number },
  stack: readonly Element[],
): string {
  const builder = new XMLBuilder({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    format: true,
    suppressEmptyNode: true,
  })
  const body = builder.build([
    {
      image: [{ stack }],
      ':@': {
        '@version': '0.0.6',
        '@w': String(width),
        '@h': String(height),
        '@xres': String(Math.round(ppi)),
        '@yres': String(Math.round(ppi)),
        // Blending in linear light is not in the specification; who does not know this blends sRGB values.
        ...(linear ? { '@xmlns:wily': OUR_NAMESPACE, '@wily:blending': 'linear' } : {}),
      },
    },
  ])
  return `<?xml version="1.0" encoding="UTF-8"?>\n${body.trim()}\n`
}

const countOf = (nodes: readonly OraNode[]): number =>
  nodes.reduce((sum, node) => sum + (node.kind === 'layer' ? 1 : countOf(node.children)), 0)

const pngOf = ({ width, height, data }: Picture): Promise<Buffer> =>
  sharp(data, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 4 })
    .toBuffer()

const alphaOf = ({ width, height, data }: Picture) => {
  const alpha = new Uint8Array(width * height)
  for (let i = 0; i < alpha.length; i++) alpha[i] = data[i * 4 + 3]
  return { width, height, data: alpha }
}
