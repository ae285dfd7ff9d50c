/** A composition drawn in parts: as many at once as there are threads, and where pictures are too many to be held whole, from parts of those. */
import { adjustmentOf } from '@/core/compose/adjustments/registry'
import { type DecodedPicture, type Node, withPictures } from '@/core/compose/nodes'
import { Renderer } from '@/core/compose/renderer'
import { type Settings } from '@/core/compose/settings'
import { type Crew, type Task } from '@/core/parallel/crew'
import { type Affine, apply, inverse, meanScale } from '@/core/raster/affine'
import { type Box } from '@/core/raster/content'

/** Gives the part of a picture that will be looked at, in its own pixels; parts are valid until the next `begin`. */
export interface PictureParts {
  begin(): void
  /** @param half at half size, too */
  part(asset: string, box: Box, half: boolean): DecodedPicture
}
/** Draws all of a canvas, its pictures read from somewhere by name. */
export type Draw = (drawing: Omit<Drawing<unknown>, 'stored'>, crew: Crew, check: (progress: number) => void) => void

/** @template S what the pictures are read from */
export interface Drawing<S> extends Settings {
  readonly nodes: readonly Node<string | DecodedPicture>[]
  readonly stored: S
  /** Straight alpha, of the canvas's size, 8 or 16 bits a channel; parts are written into it. */
  readonly data: Uint8ClampedArray | Uint16Array
}

/** Side of a part, px. */
const PART = 768
/** What lies below an effect is remembered up to so many bytes on each thread. */
const BELOW_BYTES = 48 << 20

/** Draws all of the canvas into `data`. */
export function drawInParts<S>(
  task: Task<Drawing<S>, Box>,
  drawing: Drawing<S>,
  crew: Crew,
  check: (progress: number) => void,
): void {
  const { width, height } = drawing.canvas,
    boxes: Box[] = []
  for (let y = 0; y < height; y += PART)
    for (let x = 0; x < width; x += PART)
      boxes.push({ x, y, width: Math.min(PART, width - x), height: Math.min(PART, height - y) })
  // From both ends: threads seldom draw what lies round about the same parts, for effects to look at.
  const ordered = boxes.map((_, i) => boxes[i % 2 ? boxes.length - 1 - (i >> 1) : i >> 1])
  crew.share(task, drawing, ordered, check)
}

/** @param open makes ready to read the pictures that nodes name; null: nodes hold their pictures */
export const partsTask = <S>(name: string, open: (stored: S) => PictureParts | null): Task<Drawing<S>, Box> => ({
  name,
  begin({ nodes, stored, data, ...settings }) {
    const parts = open(stored),
      renderer = new Renderer(BELOW_BYTES),
      beyond = effectsOf(nodes),
      { width } = settings.canvas
    if (!parts)
      renderer.show(
        withPictures(nodes, (picture) => (typeof picture === 'string' ? null : picture)),
        settings,
      )
    return (box) => {
      if (parts) {
        const around = beyond.reduce(widened, box)
        parts.begin()
        renderer.show(
          withPictures(nodes, (picture, node) =>
            typeof picture === 'string'
              ? parts.part(
                  picture,
                  lookedAt(node.toCanvas, around, beyond.length > 0),
                  beyond.length > 0 || leastScale(node.toCanvas) < REDUCED,
                )
              : picture,
          ),
          settings,
        )
      }
      const tile =
        data instanceof Uint16Array ? renderer.deepRegion({ level: 0, ...box }) : renderer.region({ level: 0, ...box })
      for (let row = 0; row < box.height; row++)
        data.set(
          tile.data.subarray(row * box.width * 4, (row + 1) * box.width * 4),
          ((box.y + row) * width + box.x) * 4,
        )
    }
  },
})

/** Where nodes hold their pictures, in memory that all threads see. */
export const drawWholePictures: Task<Drawing<null>, Box> = partsTask('parts of a composition', () => null)

/** How far effects look beyond at the two finest levels: `reach` px, up to the next whole tile of `tile` px. What looks farther looks at coarser levels, which are held whole. */
interface Beyond {
  readonly reach: number
  readonly tile: number
}
const NEAR: Beyond = { reach: 16, tile: 256 },
  FAR: Beyond = { reach: 120, tile: 512 }
const effectsOf = (nodes: readonly Node<unknown>[]): Beyond[] =>
  nodes.flatMap((node) => {
    if (node.kind === 'group') return effectsOf(node.children)
    const reach = node.kind === 'adjust' ? adjustmentOf(node.adjustment).reach?.(node.adjustment) : undefined
    return reach === undefined ? [] : [reach <= NEAR.reach ? NEAR : FAR]
  })
function widened(box: Box, { reach, tile }: Beyond): Box {
  const left = Math.floor((box.x - reach) / tile) * tile,
    top = Math.floor((box.y - reach) / tile) * tile
  return {
    x: left,
    y: top,
    width: Math.ceil((box.x + box.width + reach) / tile) * tile - left,
    height: Math.ceil((box.y + box.height + reach) / tile) * tile - top,
  }
}
const EVERYTHING: Box = { x: -1e9, y: -1e9, width: 2e9, height: 2e9 }
/** A placed picture enlarged beyond this is looked at on its finest levels from afar, too. */
const ENLARGED = 1.4
/** One reduced beyond this, if only in one direction, is looked at on its second level. */
const REDUCED = 0.75
const leastScale = ([a, b, c, d]: Affine): number => Math.min(Math.hypot(a, b), Math.hypot(c, d))

/** The part of a picture, in its pixels, that lies in a box of the canvas, with what filters look at beyond. */
function lookedAt(toCanvas: Affine, box: Box, far: boolean): Box {
  let back: Affine
  try {
    back = inverse(toCanvas)
  } catch {
    return { x: 0, y: 0, width: 1, height: 1 }
  }
  if (far && meanScale(toCanvas) > ENLARGED) return EVERYTHING
  const corners = [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x, box.y + box.height],
    [box.x + box.width, box.y + box.height],
  ].map(([x, y]) => apply(back, x, y))
  const xs = corners.map(([x]) => x),
    ys = corners.map(([, y]) => y),
    spare = 8 + 4 * Math.max(1, meanScale(back))
  const left = Math.floor(Math.min(...xs) - spare),
    top = Math.floor(Math.min(...ys) - spare)
  return {
    x: left,
    y: top,
    width: Math.ceil(Math.max(...xs) + spare) - left,
    height: Math.ceil(Math.max(...ys) + spare) - top,
  }
}
