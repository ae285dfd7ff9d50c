/**
 * A composition to pixels: any rectangle of the canvas, at any mip level, in floating point, rounded once at the end.
 *
 * Formulas: W3C Compositing and Blending Level 1 (see kernels/assembly/compose.ts). Buffers are premultiplied RGBA of 16 bytes a pixel, taken from one
 * kernel memory as a stack, so memory grows with the depth of groups and not with their number. What effects see round about them (`below`) is
 * drawn by tiles of the level they need, and remembered under what it shows, up to a number of bytes; so is what lies below a changing layer.
 */
import { type DeepPicture, type Picture } from '../raster/picture'
import { adjust, aroundOf } from './adjust'
import { adjustmentOf } from './adjustments/registry'
import { type Below, BelowTiles, TILE } from './below'
import { coverRows } from './coverRows'
import { copyWhole, lastCover, pieces } from './covering'
import { drawFill } from './drawFill'
import { drawPicture } from './drawPicture'
import { modeNumber } from './modes'
import { type AdjustNode, type GroupNode, type Node } from './nodes'
import { operatorOf } from './operator'
import { fromLinear } from '../colour/srgb'
import { packDeepRow } from '../raster/deepRows'
import { type Region } from './region'
import { LONGEST_ROW, makeRoom, PIXEL_BYTES } from './room'
import { type Settings } from './settings'
import { PACK_STEPS } from './tables'
import { ToneTables } from './toneTables'

/** Pixels drawn at a time: their buffer stays in the processor's cache. */
const PIXELS_AT_ONCE = 65_536
/** Regions of fewer pixels (the one under the pointer) are drawn by themselves: whole tiles round about them would be made for nothing. */
const FEW_PIXELS = 64

/** Draws compositions; keeps what it can use again for the next one. One for each thread. */
export class Renderer {
  private readonly room = makeRoom()
  private readonly stack = this.room.stack
  private readonly tones = new ToneTables(this.stack)
  private readonly below: BelowTiles
  private nodes: readonly Node[] = []
  private settings: Settings = { canvas: { width: 1, height: 1 } }
  /** The first node that differed from the composition before: what lies below it is kept. */
  private changing = 0
  /** What lies below is drawn as it is asked for, not by tiles. */
  private sparing = false

  /** @param bytes how much drawn below may be kept */
  constructor(bytes: number) {
    this.below = new BelowTiles(
      bytes,
      () => this.settings,
      (below, region) => this.drawn(below, region),
    )
  }

  /** @param nodes bottom first; only those to be shown */
  show(nodes: readonly Node[], settings: Settings): void {
    const same =
      settings.linear === this.settings.linear &&
      settings.canvas.width === this.settings.canvas.width &&
      settings.canvas.height === this.settings.canvas.height
    let first = 0
    while (
      same &&
      first < nodes.length &&
      first < this.nodes.length &&
      nodes[first].key !== undefined &&
      nodes[first].key === this.nodes[first].key
    )
      first++
    if (first < nodes.length || nodes.length !== this.nodes.length) this.changing = first
    this.below.forgetNames()
    this.nodes = nodes
    this.settings = settings
  }

  /** The region's pixels, straight alpha. @param check is called now and then with the progress (0-1); what it throws ends the work */
  region(region: Region, check: (progress: number) => void = () => {}): Picture {
    const { width, height } = region,
      out = new Uint8ClampedArray(width * height * 4)
    if (!width || !height) return { width, height, data: out }
    const only = this.nodes.length === 1 ? this.nodes[0] : null
    if (only?.kind === 'picture' && copyWhole(only, region, out)) return { width, height, data: out }
    this.drawParts(region, check, (part, at, x, y) => this.pack(part, at, out, width, x, y))
    return { width, height, data: out }
  }

  /** The same in 16 bits, 65535 for what is 255 in 8. */
  deepRegion(region: Region, check: (progress: number) => void = () => {}): DeepPicture {
    const { width, height } = region,
      out = new Uint16Array(width * height * 4)
    this.drawParts(region, check, (part, at, x, y) => {
      const drawn = this.stack.floats(at, part.width * part.height * 4)
      for (let row = 0; row < part.height; row++)
        packDeepRow(
          drawn.subarray(row * part.width * 4, (row + 1) * part.width * 4),
          out.subarray(((y + row) * width + x) * 4),
          this.settings.linear ? fromLinear : undefined,
        )
    })
    return { width, height, data: out }
  }

  /** Draws the region some rows at a time. @param put takes each part: where it lies in memory, and from where in the region it is */
  private drawParts(
    region: Region,
    check: (progress: number) => void,
    put: (part: Region, at: number, x: number, y: number) => void,
  ): void {
    const { width, height } = region
    this.sparing = width * height < FEW_PIXELS
    const columns = Math.min(width, LONGEST_ROW),
      rows = Math.max(1, Math.floor(PIXELS_AT_ONCE / columns))
    for (let y = 0; y < height; y += rows) {
      check(y / height)
      for (let x = 0; x < width; x += columns) {
        const part: Region = {
          level: region.level,
          x: region.x + x,
          y: region.y + y,
          width: Math.min(columns, width - x),
          height: Math.min(rows, height - y),
        }
        const at = this.takeClear(part)
        this.drawShown(part, at)
        put(part, at, x, y)
        this.stack.release(at)
      }
    }
  }

  private takeClear(region: Region): number {
    const at = this.stack.take(region.width * region.height * PIXEL_BYTES)
    this.stack.floats(at, region.width * region.height * 4).fill(0)
    return at
  }

  private pack(part: Region, at: number, out: Uint8ClampedArray, stride: number, x: number, y: number): void {
    const { linear } = this.settings,
      { tables, bytes } = this.room
    for (let r = 0; r < part.height; r++) {
      this.stack.run.packRow(
        at + r * part.width * PIXEL_BYTES,
        bytes,
        part.width,
        linear ? tables.byteOfRoot : 0,
        PACK_STEPS,
      )
      out.set(this.stack.bytes(bytes, part.width * 4), ((y + r) * stride + x) * 4)
    }
  }

  /** The whole composition. What lies below the node that changes is taken from memory where the region is a tile. */
  private drawShown(region: Region, at: number): void {
    const { nodes, changing } = this
    const covered = lastCover(nodes, nodes.length, region)
    // An effect looks round about at what is below it: then that is there in tiles, and need not be drawn again.
    const effect = nodes.findLastIndex((node) => node.kind === 'adjust' && adjustmentOf(node.adjustment).reach)
    const under = !this.sparing && effect > covered && effect >= changing ? this.below.of(nodes, effect, null) : null
    if (under) {
      this.gather(under, region, at)
      this.drawList(nodes, effect, nodes.length, null, region, at)
      return
    }
    if (
      this.sparing ||
      covered >= changing ||
      changing === 0 ||
      region.width > TILE ||
      region.x % TILE !== 0 ||
      region.y % TILE !== 0
    ) {
      this.drawFirst(nodes, nodes.length, region, at)
      return
    }
    const below = this.below.of(nodes, changing, null)
    if (!below) {
      this.drawFirst(nodes, nodes.length, region, at)
      return
    }
    const found = this.below.tile(below, region)
    this.stack.floats(at, found.length).set(found)
    this.drawList(nodes, changing, nodes.length, null, region, at)
  }

  private gather(below: Below, region: Region, at: number): void {
    this.below.gather(below, region, this.sparing, () => this.stack.floats(at, region.width * region.height * 4))
  }

  private drawn(below: Below, region: Region): Float32Array {
    const at = this.takeClear(region)
    this.drawBelow(below, region, at)
    const made = this.stack.floats(at, region.width * region.height * 4).slice()
    this.stack.release(at)
    return made
  }

  private drawBelow({ nodes, count, base }: Below, region: Region, at: number): void {
    if (!base) {
      this.drawFirst(nodes, count, region, at)
      return
    }
    this.drawBelow(base, region, at)
    this.drawList(nodes, 0, count, base, region, at)
  }

  /** The first `count` nodes onto an empty buffer: of what is hidden nothing is drawn. */
  private drawFirst(nodes: readonly Node[], count: number, region: Region, at: number): void {
    const from = lastCover(nodes, count, region),
      parts = pieces(nodes, from, count, region)
    if (!parts) {
      this.drawList(nodes, from, count, null, region, at, true)
      return
    }
    for (const part of parts) {
      const own = this.takeClear(part),
        bytes = part.width * PIXEL_BYTES
      this.drawFirst(nodes, count, part, own)
      const memory = new Uint8Array(this.stack.run.memory.buffer)
      for (let row = 0; row < part.height; row++) {
        const place = (part.y + row - region.y) * region.width + part.x - region.x
        memory.copyWithin(at + place * PIXEL_BYTES, own + row * bytes, own + (row + 1) * bytes)
      }
      this.stack.release(own)
    }
  }

  /** Nodes `from` to `to` onto a buffer that has what is below them. */
  private drawList(
    nodes: readonly Node[],
    from: number,
    to: number,
    base: Below | null,
    region: Region,
    at: number,
    empty = false,
  ): void {
    const { linear = false } = this.settings
    for (let i = from; i < to; i++) {
      const node = nodes[i]
      if (node.opacity <= 0) continue
      if (node.kind === 'picture') drawPicture(this.room, node, region, at, linear, i === from && empty)
      else if (node.kind === 'fill') drawFill(this.room, node, region, at, linear)
      else if (node.kind === 'group') this.drawGroup(node, nodes, i, base, region, at)
      else this.adjust(node, nodes, i, base, region, at)
    }
  }

  private drawGroup(
    node: GroupNode,
    nodes: readonly Node[],
    index: number,
    base: Below | null,
    region: Region,
    at: number,
  ): void {
    const { width, height } = region,
      { run } = this.stack,
      { children } = node
    const through = node.passThrough && !node.atop && !node.joins && (node.blend ?? 'normal') === 'normal'
    const inside = through ? this.below.of(nodes, index, base) : null
    if (through && node.opacity === 1 && !node.mask) {
      this.drawList(children, 0, children.length, inside, region, at)
      return
    }
    const own = this.stack.take(width * height * PIXEL_BYTES),
      count = width * height * 4
    if (through) this.stack.floats(own, count).set(this.stack.floats(at, count))
    else this.stack.floats(own, count).fill(0)
    if (through) this.drawList(children, 0, children.length, inside, region, own)
    else this.drawFirst(children, children.length, region, own)
    const covers = coverRows(this.room, node.mask, region),
      mode = modeNumber(node.blend ?? 'normal')
    for (let y = 0; y < height; y++) {
      if (covers && !covers(y)) continue
      const row = y * width * PIXEL_BYTES,
        cover = covers ? this.room.cover : 0
      if (through) run.mixRow(at + row, own + row, cover, node.opacity, width)
      else run.compositeRow(at + row, own + row, cover, node.opacity, width, mode, operatorOf(node))
    }
    this.stack.release(own)
  }

  private adjust(
    node: AdjustNode,
    nodes: readonly Node[],
    index: number,
    base: Below | null,
    region: Region,
    at: number,
  ): void {
    const { canvas } = this.settings
    /** The first `count` nodes as they lie there. */
    const lower = (count: number) => {
      // Without keys it is not found again.
      const below = this.below.of(nodes, count, base) ?? { id: this.below.newId(), nodes, count, base }
      return (part: Region, at: number) => this.gather(below, part, at)
    }
    const around = aroundOf(this.room, region, canvas, (all) => lower(all ? index : Math.min(1, index)))
    this.room.scratch.during(() => adjust(this.room, this.tones, node, region, at, this.settings, around))
  }
}
