/** An OpenRaster file as a new project: layers as pictures, stacks as groups. Source: OpenRaster specification 0.0.6. */
import { randomUUID } from 'node:crypto'
import { rm } from 'node:fs/promises'
import { XMLParser } from 'fast-xml-parser'
import sharp from 'sharp'
import { BLEND_MODES } from '@/core/compose/modes'
import { parseStep } from '@/core/formats/recipe'
import { translation } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type StoredPicture } from '@/document/exchanged'
import { edited } from '@/document/history'
import { groupOf, layerOf } from '@/document/layerRecords'
import { LIMITS, PICTURE_BYTES } from '@/document/limits'
import { maskWith } from '@/document/masks'
import { ATOP, OPERATOR_OF, OVER, WITHIN } from '@/document/openRasterTree'
import { type Layer, type Project, USUAL_PPI } from '@/document/records'
import { storeFile } from '../assets'
import { Problem } from '../problems'
import { scratch } from '../storage/scratch'
import { type OpenZip } from '../zipFile'

/** Of stack.xml, bytes. */
const XML_BYTES = 4 << 20
/** Layers further out than this are a mistake, px. */
const FARTHEST = 1e6

interface Element {
  readonly tag: string
  readonly attributes: Readonly<Record<string, string>>
  readonly children: readonly Element[]
}

export const isOpenRaster = async (zip: OpenZip): Promise<boolean> =>
  zip.has('mimetype') && (await zip.read('mimetype', 1024)).toString('latin1').trim() === 'image/openraster'

/** @param what the file, for people @param name of the project @param check is told how far it is, 0-1, and may throw. Throws Problem */
export async function readOpenRaster(
  zip: OpenZip,
  what: string,
  name: string,
  check: (progress: number) => void,
): Promise<Project> {
  const image = parsed((await zip.read('stack.xml', XML_BYTES)).toString('utf8'), what),
    canvas: Size = { width: whole(image.attributes.w), height: whole(image.attributes.h) },
    root = image.children.find(({ tag }) => tag === 'stack')
  if (!root || !(canvas.width >= 1 && canvas.height >= 1))
    throw new Problem(422, `${what} has no stack of layers, or no size.`)
  if (Math.max(canvas.width, canvas.height) > LIMITS.side || canvas.width * canvas.height > LIMITS.pixels)
    throw new Problem(
      422,
      `${what} is ${canvas.width} × ${canvas.height} px; up to ${LIMITS.pixels / 1e6} megapixels are read.`,
    )
  const all = countOf(root),
    reader = new Reader(zip, what, canvas, (count) => check(Math.min(1, count / all))),
    layers = await reader.layersOf(root, undefined, 0)
  const xres = Number(image.attributes.xres)
  let project: Project = {
    version: 1,
    name,
    canvas,
    ppi: xres >= 10 && xres <= 5000 ? Math.round(xres) : USUAL_PPI,
    layers,
    ...(image.attributes['wily:blending'] === 'linear' ? { linear: true } : {}),
    activeLayer: layers.at(-1)?.id ?? null,
    selection: { version: 1, steps: [] },
    saved: [],
    paths: [],
    guides: [],
  }
  for (const { group, asset, enabled } of reader.masks)
    project = edited(project, (draft) =>
      maskWith(
        draft,
        group,
        { version: 1, steps: [parseStep({ kind: 'image', id: randomUUID(), asset, use: 'alpha' })] },
        { enabled },
      ),
    )
  return project
}

const countOf = ({ children }: Element): number => children.reduce((sum, child) => sum + countOf(child), 1)

class Reader {
  readonly masks: { group: string; asset: string; enabled: boolean }[] = []
  private count = 0

  constructor(
    private readonly zip: OpenZip,
    private readonly what: string,
    private readonly canvas: Size,
    /** Is told how many layers and stacks have been begun. */
    private readonly begun: (count: number) => void,
  ) {}

  /** Bottom first; those of a group before the group. */
  async layersOf(stack: Element, parent: string | undefined, depth: number): Promise<Layer[]> {
    if (depth > LIMITS.groups)
      throw new Problem(422, `${this.what} has more than ${LIMITS.groups} stacks in each other.`)
    const out: Layer[] = []
    for (const element of stack.children.toReversed()) {
      if (element.tag !== 'layer' && element.tag !== 'stack') continue
      if (++this.count > LIMITS.layers)
        throw new Problem(422, `${this.what} has more than ${LIMITS.layers} layers and stacks.`)
      this.begun(this.count)
      if (element.attributes['composite-op'] === WITHIN && parent && element === stack.children[0]) {
        const { asset } = await this.onCanvas(element)
        this.masks.push({ group: parent, asset, enabled: isVisible(element) })
      } else if (element.tag === 'stack') out.push(...(await this.stack(element, parent, depth)))
      else out.push(await this.layer(element, parent))
    }
    return out
  }

  private async stack(element: Element, parent: string | undefined, depth: number): Promise<Layer[]> {
    const { children } = element,
      base = children.at(-1)
    // A layer with what is clipped to it: together they are laid over as the stack says.
    if (
      base &&
      children.length > 1 &&
      children.slice(0, -1).every(({ attributes }) => attributes['composite-op'] === ATOP)
    ) {
      const [own, ...clipped] = children.toReversed(),
        under = await this.layersOf({ ...element, children: [own] }, parent, depth)
      const placed = under.map((layer) =>
        layer.parent === parent ? { ...layer, ...this.common(element, parent) } : layer,
      )
      return [...placed, ...(await this.layersOf({ ...element, children: clipped.toReversed() }, parent, depth))]
    }
    const id = randomUUID(),
      inside = await this.layersOf(element, id, depth + 1),
      passThrough = element.attributes.isolation === 'auto'
    return [...inside, { ...groupOf(id, 'Group', this.canvas, passThrough), ...this.common(element, parent) }]
  }

  private async layer(element: Element, parent: string | undefined): Promise<Layer> {
    const picture = await this.picture(element),
      [x, y] = [place(element.attributes.x), place(element.attributes.y)]
    return {
      ...layerOf({ ...picture, name: '' }, randomUUID(), translation(x, y)),
      ...this.common(element, parent),
    }
  }

  private common({ attributes, tag }: Element, parent: string | undefined) {
    const opacity = Number(attributes.opacity ?? 1),
      operator = attributes['composite-op'] ?? OVER,
      blend = BLEND_MODES.find((mode) => OPERATOR_OF[mode] === operator) ?? 'normal'
    return {
      name: (attributes.name ?? '').slice(0, LIMITS.name) || (tag === 'stack' ? 'Group' : 'Layer'),
      opacity: opacity >= 0 && opacity <= 1 ? opacity : 1,
      visible: attributes.visibility !== 'hidden',
      ...(blend === 'normal' ? {} : { blend }),
      ...(operator === ATOP ? { clipped: true } : {}),
      ...(parent === undefined ? {} : { parent }),
    }
  }

  private async picture({ attributes }: Element): Promise<StoredPicture> {
    const { src } = attributes
    if (!src) throw new Problem(422, `${this.what} has a layer without a picture.`)
    const file = await this.zip.extract(src, PICTURE_BYTES)
    try {
      return await storeFile(file, src)
    } finally {
      await rm(file, { force: true })
    }
  }

  /** A layer as a picture of the canvas's size. */
  private async onCanvas(element: Element): Promise<StoredPicture> {
    const { src, x, y } = element.attributes,
      layer = await this.zip.extract(src ?? '', PICTURE_BYTES),
      file = await scratch()
    try {
      await sharp({ create: { ...this.canvas, channels: 4, background: '#00000000' }, limitInputPixels: LIMITS.pixels })
        .composite([{ input: layer, left: place(x), top: place(y), limitInputPixels: LIMITS.pixels }])
        .png()
        .toFile(file)
      return await storeFile(file, src ?? '')
    } catch (error) {
      throw error instanceof Problem ? error : new Problem(422, `${this.what}: ${src} cannot be read.`)
    } finally {
      await Promise.all([layer, file].map((path) => rm(path, { force: true })))
    }
  }
}

const whole = (text: string | undefined): number => (/^\d{1,6}$/.test(text ?? '') ? Number(text) : 0)
const place = (text: string | undefined): number => {
  const value = Math.round(Number(text ?? 0))
  return Math.abs(value) <= FARTHEST ? value : 0
}
const isVisible = ({ attributes }: Element): boolean => attributes.visibility !== 'hidden'

/** The image element. Document types, with what they may define, are not taken. */
function parsed(xml: string, what: string): Element {
  if (/<!DOCTYPE/i.test(xml))
    throw new Problem(422, `${what}: its stack.xml defines a document type, which is not read.`)
  let nodes: readonly Raw[]
  try {
    const parser = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      attributeNamePrefix: '',
      parseAttributeValue: false,
    })
    nodes = parser.parse(xml, true) as readonly Raw[]
  } catch {
    throw new Problem(422, `${what}: its stack.xml is damaged.`)
  }
  const image = nodes.map(elementOf).find((element) => element?.tag === 'image')
  if (!image) throw new Problem(422, `${what}: its stack.xml describes no image.`)
  return image
}
type Raw = Readonly<Record<string, unknown>>
function elementOf(raw: Raw): Element | undefined {
  const tag = Object.keys(raw).find((key) => key !== ':@')
  if (tag === undefined || tag.startsWith('#') || tag.startsWith('?')) return undefined
  return {
    tag,
    attributes: (raw[':@'] ?? {}) as Record<string, string>,
    children: (raw[tag] as readonly Raw[]).flatMap((child) => elementOf(child) ?? []),
  }
}
