/**
 * A composition to pixels: any rectangle of the canvas, at any mip level, in floating point, rounded once at the end.
 *
 * Formulas: W3C Compositing and Blending Level 1 (see kernels/assembly/compose.ts). Buffers are premultiplied RGBA of 16 bytes a pixel, taken from one
 * kernel memory as a stack, so memory grows with the depth of groups and not with their number. What effects see round about them (`below`) is
 * drawn by tiles of the level they need, and remembered under what it shows, up to a number of bytes; so is what lies below a changing layer.
 */
import { fromLinear, toLinear } from '../colour/srgb'
import { KernelStack } from '../kernels'
import { type Affine, apply, compose, inverse, isIdentity, meanScale, scaling, translation } from '../raster/affine'
import { type Picture, type Size } from '../raster/picture'
import { isShift, sampleCoverageRow } from '../raster/sampleRow'
import { BoundedMemory } from '../cache/memory'
import { type RowWork, type Surround } from './adjustments/adjustment'
import { adjustmentOf, type AdjustmentRecord } from './adjustments/registry'
import { blurDisc, blurGaussian } from './blur'
import { fillRows } from './fill'
import { DISJOINT_OVER, modeNumber, operatorNumber } from './modes'
import { type AdjustNode, type FillNode, type GroupNode, type Node, type PictureNode, type PlacedMask } from './nodes'
import { type Region } from './region'
import { CURVE_STEPS, layTables, PACK_STEPS, type Tables } from './tables'

/** Side of the tiles that are remembered, px. */
const TILE = 256
/** Pixels drawn at a time, and in a row of them: their buffer stays in the processor's cache. */
const PIXELS_AT_ONCE = 65_536,
  LONGEST_ROW = 1024
/** Regions of fewer pixels (the one under the pointer) are drawn by themselves: whole tiles round about them would be made for nothing. */
const FEW_PIXELS = 64
/** Where less than one in so many of a tile's pixels is needed, only those are drawn, in strips of so many px. */
const LITTLE = 4,
  STRIP = 32
const PIXEL_BYTES = 16
/** Adjustments whose tables are kept, and the room for one table. */
const TONES_KEPT = 24,
  TONE_BYTES = (CURVE_STEPS + 1) * 4
const OVER = operatorNumber('source-over'),
  ATOP = operatorNumber('source-atop'),
  NORMAL = modeNumber('normal')
const operatorOf = ({ atop, joins }: Node): number => (atop ? ATOP : joins ? DISJOINT_OVER : OVER)

export interface Settings {
  readonly canvas: Size
  /** Blends in linear light instead of encoded sRGB. */
  readonly linear?: boolean
}

/** Some first nodes of a list, on what lies below the list. Its id stands for all it shows. */
interface Below {
  readonly id: number
  readonly nodes: readonly Node[]
  readonly count: number
  readonly base: Below | null
}

const keyOf = ({ id }: Below, { level, x, y, width, height }: Region): string =>
  `${id} ${level}/${x}/${y}/${width}/${height}`

/** Of a tile that little is needed of, that part, in whole strips; otherwise the tile. Round about what is looked at effects need a margin only. */
function partNeeded(tile: Region, left: number, right: number, top: number, bottom: number): Region {
  const down = (at: number, origin: number) => Math.max(0, Math.floor((at - origin) / STRIP) * STRIP)
  const up = (at: number, origin: number, most: number) => Math.min(most, Math.ceil((at + 1 - origin) / STRIP) * STRIP)
  const x0 = down(left, tile.x),
    y0 = down(top, tile.y),
    width = up(right, tile.x, tile.width) - x0,
    height = up(bottom, tile.y, tile.height) - y0
  if (width * height * LITTLE > tile.width * tile.height) return tile
  return { level: tile.level, x: tile.x + x0, y: tile.y + y0, width, height }
}

/** Draws compositions; keeps what it can use again for the next one. One for each thread. */
export class Renderer {
  private readonly stack = new KernelStack()
  private readonly tables: Tables = layTables(this.stack)
  private readonly row = this.stack.take(LONGEST_ROW * PIXEL_BYTES)
  private readonly bytes = this.stack.take(LONGEST_ROW * 4)
  private readonly cover = this.stack.take(LONGEST_ROW * 4)
  private readonly tiles: BoundedMemory
  private readonly ids = new Map<string, number>()
  private nodes: readonly Node[] = []
  private settings: Settings = { canvas: { width: 1, height: 1 } }
  /** The first node that differed from the composition before: what lies below it is kept. */
  private changing = 0
  /** What lies below is drawn as it is asked for, not by tiles. */
  private sparing = false

  /** @param bytes how much drawn below may be kept */
  constructor(bytes: number) {
    this.tiles = new BoundedMemory(bytes)
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
    if (this.ids.size > 100_000) this.ids.clear()
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
        this.pack(part, at, out, width, x, y)
        this.stack.release(at)
      }
    }
    return { width, height, data: out }
  }

  private takeClear(region: Region): number {
    const at = this.stack.take(region.width * region.height * PIXEL_BYTES)
    this.stack.floats(at, region.width * region.height * 4).fill(0)
    return at
  }

  private pack(part: Region, at: number, out: Uint8ClampedArray, stride: number, x: number, y: number): void {
    const { linear } = this.settings
    for (let r = 0; r < part.height; r++) {
      this.stack.run.packRow(
        at + r * part.width * PIXEL_BYTES,
        this.bytes,
        part.width,
        linear ? this.tables.byteOfRoot : 0,
        PACK_STEPS,
      )
      out.set(this.stack.bytes(this.bytes, part.width * 4), ((y + r) * stride + x) * 4)
    }
  }

  /** The whole composition. What lies below the node that changes is taken from memory where the region is a tile. */
  private drawShown(region: Region, at: number): void {
    const { nodes, changing } = this
    const covered = lastCover(nodes, region)
    // An effect looks round about at what is below it: then that is there in tiles, and need not be drawn again.
    const effect = nodes.findLastIndex((node) => node.kind === 'adjust' && adjustmentOf(node.adjustment).reach)
    const under = !this.sparing && effect > covered && effect >= changing ? this.below(nodes, effect, null) : null
    if (under) {
      const found = this.gather(under, region) // before the buffer is looked at: memory may grow
      this.stack.floats(at, found.length).set(found)
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
      this.drawList(nodes, covered, nodes.length, null, region, at, true)
      return
    }
    const below = this.below(nodes, changing, null)
    if (!below) {
      this.drawList(nodes, covered, nodes.length, null, region, at, true)
      return
    }
    const found = this.tileOf(below, region)
    this.stack.floats(at, found.length).set(found)
    this.drawList(nodes, changing, nodes.length, null, region, at)
  }

  /** The first `count` of the nodes as something to be drawn and remembered; null when one of them has no key. */
  private below(nodes: readonly Node[], count: number, base: Below | null): Below | null {
    const { linear, canvas } = this.settings
    let id = this.idOf(base ? `${base.id}` : `${linear ? 'linear' : 'encoded'} ${canvas.width}×${canvas.height}`)
    for (let i = 0; i < count; i++) {
      const { key } = nodes[i]
      if (key === undefined) return null
      id = this.idOf(`${id} ${key}`)
    }
    return { id, nodes, count, base }
  }
  private idOf(key: string): number {
    let id = this.ids.get(key)
    if (id === undefined) this.ids.set(key, (id = this.lastId++))
    return id
  }
  private lastId = 1

  private knows(below: Below, region: Region): boolean {
    return this.tiles.get(keyOf(below, region)) !== undefined
  }
  /** A tile of what lies below, or a part of one, remembered. */
  private tileOf(below: Below, region: Region): Float32Array {
    const key = keyOf(below, region)
    const known = this.tiles.get<Float32Array>(key)
    if (known) return known
    const made = this.drawn(below, region)
    this.tiles.set(key, made, made.byteLength)
    return made
  }
  private drawn(below: Below, region: Region): Float32Array {
    const at = this.takeClear(region)
    this.drawBelow(below, region, at)
    const made = this.stack.floats(at, region.width * region.height * 4).slice()
    this.stack.release(at)
    return made
  }

  private drawBelow(below: Below, region: Region, at: number): void {
    if (below.base) this.drawBelow(below.base, region, at)
    this.drawList(
      below.nodes,
      below.base ? 0 : Math.min(below.count, lastCover(below.nodes.slice(0, below.count), region)),
      below.count,
      below.base,
      region,
      at,
      !below.base,
    )
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
    for (let i = from; i < to; i++) {
      const node = nodes[i]
      if (node.opacity <= 0) continue
      if (node.kind === 'picture') this.drawPicture(node, region, at, i === from && empty)
      else if (node.kind === 'fill') this.drawFill(node, region, at)
      else if (node.kind === 'group') this.drawGroup(node, nodes, i, base, region, at)
      else this.adjust(node, nodes, i, base, region, at)
    }
  }

  /** @param empty nothing was drawn below it */
  private drawPicture(node: PictureNode, region: Region, at: number, empty: boolean): void {
    const { levels, opaque } = node.picture
    let source = pickLevel(levels.length, node.toCanvas, region)
    // Squeezed in one direction only, a region may look at very much of a picture: then a coarser level has to do.
    while (
      source &&
      !isShift(source.map) &&
      source.level < levels.length - 1 &&
      areaLookedAt(source.map, region) > MOST_LOOKED_AT
    )
      source = pickLevel(levels.length, node.toCanvas, region, source.level + 1)
    if (!source) return
    const picture = levels[source.level],
      { width } = region,
      { run } = this.stack
    if (picture.left || picture.top)
      source.map = compose(translation(-(picture.left ?? 0), -(picture.top ?? 0)), source.map)
    const rows = rowsTouched(picture, source.map, region),
      shift = isShift(source.map),
      fine = region.level === 0
    const shiftX = Math.round(source.map[4]),
      shiftY = Math.round(source.map[5])
    const from = shift ? Math.max(0, -shiftX) : 0,
      to = shift ? Math.min(width, picture.width - shiftX) : width
    if (to <= from) return
    const mode = modeNumber(node.blend ?? 'normal'),
      operator = operatorOf(node)
    const covers = this.coverRows(node.mask, region)
    const table = this.settings.linear ? this.tables.linearOfByte : 0
    const placed = shift ? null : this.layOut(picture, opaque, source.map, region, table)
    if (!shift && !placed) return
    const sample =
      placed &&
      ((y: number) => {
        const { at: rect, left, top, width: across, height: down } = placed,
          [a, b, c, d, e, f] = source.map
        return (
          run.sampleRow(
            rect,
            (across + 4) * PIXEL_BYTES,
            across,
            down,
            a * 0.5 + c * (y + 0.5) + e - 0.5 - left,
            b * 0.5 + d * (y + 0.5) + f - 0.5 - top,
            a,
            b,
            this.row,
            width,
            fine,
          ) !== 0
        )
      })
    const bare = empty && node.opacity === 1 && !node.atop
    for (let y = rows.from; y < rows.to; y++) {
      if (covers && !covers(y)) continue
      if (shift) {
        const row = y + shiftY
        if (row < 0 || row >= picture.height) continue
        const start = (row * picture.width + from + shiftX) * 4
        this.stack.bytes(this.bytes, (to - from) * 4).set(picture.data.subarray(start, start + (to - from) * 4))
        if (bare && !covers) {
          run.unpackRow(this.bytes, at + (y * width + from) * PIXEL_BYTES, to - from, opaque, table)
          continue
        }
        run.unpackRow(this.bytes, this.row, to - from, opaque, table)
      } else if (!sample!(y)) continue
      run.compositeRow(
        at + (y * width + from) * PIXEL_BYTES,
        this.row,
        covers ? this.cover + from * 4 : 0,
        node.opacity,
        to - from,
        mode,
        operator,
      )
    }
    if (placed) this.stack.release(placed.at)
  }

  /** The rectangle of a picture that a region looks at, as premultiplied floats with a rim of two empty pixels; null where it looks at none of it. */
  private layOut(
    picture: Picture,
    opaque: boolean,
    map: Affine,
    region: Region,
    table: number,
  ): { at: number; left: number; top: number; width: number; height: number } | null {
    const corners = [
      [0, 0],
      [region.width, 0],
      [0, region.height],
      [region.width, region.height],
    ].map(([x, y]) => apply(map, x, y))
    const xs = corners.map(([x]) => x),
      ys = corners.map(([, y]) => y)
    const left = Math.max(0, Math.floor(Math.min(...xs)) - 3),
      top = Math.max(0, Math.floor(Math.min(...ys)) - 3),
      right = Math.min(picture.width, Math.ceil(Math.max(...xs)) + 3),
      bottom = Math.min(picture.height, Math.ceil(Math.max(...ys)) + 3)
    if (right <= left || bottom <= top) return null
    const width = right - left,
      height = bottom - top,
      stride = (width + 4) * PIXEL_BYTES
    const at = this.stack.take(stride * (height + 4)),
      row = this.stack.take(width * 4)
    this.stack.floats(at, (width + 4) * (height + 4) * 4).fill(0)
    for (let y = 0; y < height; y++) {
      const start = ((top + y) * picture.width + left) * 4
      this.stack.bytes(row, width * 4).set(picture.data.subarray(start, start + width * 4))
      this.stack.run.unpackRow(row, at + (y + 2) * stride + 2 * PIXEL_BYTES, width, opaque, table)
    }
    return { at, left, top, width, height }
  }

  private drawFill(node: FillNode, region: Region, at: number): void {
    const write = fillRows(node.fill, node.toCanvas)
    if (!write) return
    const { width, height } = region,
      { run } = this.stack,
      size = 2 ** region.level
    const covers = this.coverRows(node.mask, region),
      mode = modeNumber(node.blend ?? 'normal'),
      operator = operatorOf(node)
    const even = node.fill.kind === 'colour'
    for (let y = 0; y < height; y++) {
      if (covers && !covers(y)) continue
      if (!even || y === 0 || covers) {
        write(this.stack.floats(this.row, width * 4), region.x, region.y + y, size)
        if (this.settings.linear)
          run.convertRow(this.row, this.row, width, true, true, this.tables.toLinear, CURVE_STEPS, false)
      }
      run.compositeRow(
        at + y * width * PIXEL_BYTES,
        this.row,
        covers ? this.cover : 0,
        node.opacity,
        width,
        mode,
        operator,
      )
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
    const inside = through ? this.below(nodes, index, base) : null
    if (through && node.opacity === 1 && !node.mask) {
      this.drawList(children, 0, children.length, inside, region, at)
      return
    }
    const own = this.stack.take(width * height * PIXEL_BYTES),
      count = width * height * 4
    if (through) this.stack.floats(own, count).set(this.stack.floats(at, count))
    else this.stack.floats(own, count).fill(0)
    this.drawList(children, 0, children.length, inside, region, own)
    const covers = this.coverRows(node.mask, region),
      mode = modeNumber(node.blend ?? 'normal')
    for (let y = 0; y < height; y++) {
      if (covers && !covers(y)) continue
      const row = y * width * PIXEL_BYTES,
        cover = covers ? this.cover : 0
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
    const adjustment = adjustmentOf(node.adjustment),
      { width, height } = region,
      { run } = this.stack
    const { linear = false, canvas } = this.settings
    const covers = this.coverRows(node.mask, region),
      mode = modeNumber(node.blend ?? 'normal')
    /** Row `y` of the result lies at `from`; it goes in as far as mask and opacity let it. */
    const putIn = (y: number, from: number) => {
      const row = at + y * width * PIXEL_BYTES
      if (mode === NORMAL) run.mixRow(row, from, covers ? this.cover : 0, node.opacity, width)
      else run.compositeRow(row, from, covers ? this.cover : 0, node.opacity, width, mode, ATOP)
    }
    if (adjustment.channels) {
      const tables = this.tonesOf(node.adjustment)
      if (!tables) return
      const whole = mode === NORMAL && node.opacity === 1 && !covers
      for (let y = 0; y < height; y++) {
        if (covers && !covers(y)) continue
        const row = at + y * width * PIXEL_BYTES
        run.throughTables(row, whole ? row : this.row, width, tables[0], tables[1], tables[2], CURVE_STEPS, linear)
        if (!whole) putIn(y, this.row)
      }
      return
    }
    const wantsLinear = adjustment.values === 'blending' ? linear : adjustment.values === 'linear'
    const convert = wantsLinear !== linear,
      straight = !adjustment.premultiplied
    const table = !convert ? 0 : wantsLinear ? this.tables.toLinear : this.tables.toEncoded,
      back = !convert ? 0 : wantsLinear ? this.tables.toEncoded : this.tables.toLinear
    const surround: Surround = {
      gaussian: (sigma) =>
        this.around(nodes, index, base, region, sigma, 'gaussian', { table, straight, rooted: !wantsLinear }),
      disc: (radius) =>
        this.around(nodes, index, base, region, radius, 'disc', { table, straight, rooted: !wantsLinear }),
    }
    const kernel = adjustment.kernel?.(node.adjustment),
      work: RowWork | null = adjustment.rows?.(node.adjustment, region, canvas, surround) ?? null
    if (!work && !kernel) return
    const own = kernel?.table ? this.stack.take(kernel.table.byteLength) : 0,
      whole = mode === NORMAL && node.opacity === 1 && !covers
    if (kernel?.table) this.stack.floats(own, kernel.table.length).set(kernel.table)
    for (let y = 0; y < height; y++) {
      if (covers && !covers(y)) continue
      const row = at + y * width * PIXEL_BYTES
      run.convertRow(row, this.row, width, straight || convert, !straight && convert, table, CURVE_STEPS, !wantsLinear)
      kernel?.run(run, this.row, width, own)
      if (work) {
        const values = this.stack.floats(this.row, width * 4)
        work(values, y)
        if (straight)
          for (let i = 0; i < values.length; i++) {
            const v = values[i]
            values[i] = v > 0 ? (v < 1 ? v : 1) : 0
          }
      }
      run.convertRow(
        this.row,
        whole ? row : this.row,
        width,
        !straight && convert,
        straight || convert,
        back,
        CURVE_STEPS,
        wantsLinear,
      )
      if (!whole) putIn(y, this.row)
    }
    if (own) this.stack.release(own)
  }

  /** The three curves of an adjustment as tables over what colours are blended in, laid into the kernels' memory; null where they change nothing. */
  private tonesOf(record: AdjustmentRecord): readonly number[] | null {
    const { linear = false } = this.settings,
      key = `${linear} ${JSON.stringify(record)}`
    const known = this.tones.find((entry) => entry?.key === key)
    if (known) return known.places
    const { channels, values } = adjustmentOf(record),
      curves = channels!(record)
    if (!curves) return null
    const inLinear = values === 'linear' || (values === 'blending' && linear),
      clamp = (v: number) => (v > 0 ? (v < 1 ? v : 1) : 0)
    const made: Float32Array[] = []
    curves.forEach((curve, c) => {
      const same = curves.indexOf(curve)
      made.push(
        same < c
          ? made[same]
          : Float32Array.from({ length: CURVE_STEPS + 1 }, (_, i) => {
              const v = linear ? (i / CURVE_STEPS) ** 2 : i / CURVE_STEPS
              if (linear === inLinear) return clamp(curve(v))
              return linear ? toLinear(clamp(curve(fromLinear(v)))) : fromLinear(clamp(curve(toLinear(v))))
            }),
      )
    })
    // The oldest place is written anew: a slider that moves makes many.
    const slot = this.tonesMade++ % TONES_KEPT,
      places = [0, 1, 2].map((c) => this.tonesRoom + (slot * 3 + c) * TONE_BYTES)
    made.forEach((table, c) => this.stack.floats(places[c], CURVE_STEPS + 1).set(table))
    this.tones[slot] = { key, places }
    return places
  }
  private readonly tones: { key: string; places: readonly number[] }[] = []
  private readonly tonesRoom = this.stack.take(TONES_KEPT * 3 * TONE_BYTES)
  private tonesMade = 0

  /** What lies below a node, blurred: 4 floats a pixel of the region. Far-reaching blurs look at a coarser level, whose few pixels say all they keep. */
  private around(
    nodes: readonly Node[],
    index: number,
    base: Below | null,
    region: Region,
    reach: number,
    kind: 'gaussian' | 'disc',
    form: { table: number; straight: boolean; rooted: boolean },
  ): Float32Array {
    const below = this.below(nodes, index, base) ?? { id: this.lastId++, nodes, count: index, base } // without keys: not found again
    const fetch = (part: Region): Float32Array => {
      const found = this.gather(below, part)
      if (!form.table) return found
      const place = this.stack.take(found.byteLength)
      this.stack.floats(place, found.length).set(found)
      this.stack.run.convertRow(place, place, found.length / 4, true, true, form.table, CURVE_STEPS, form.rooted)
      found.set(this.stack.floats(place, found.length))
      this.stack.release(place)
      return found
    }
    const blurred = (kind === 'gaussian' ? blurGaussian : blurDisc)(
      this.stack,
      fetch,
      region,
      reach,
      this.settings.canvas,
    )
    if (form.straight)
      for (let i = 0; i < blurred.length; i += 4) {
        const a = blurred[i + 3]
        if (a > 0) {
          blurred[i] /= a
          blurred[i + 1] /= a
          blurred[i + 2] /= a
        }
      }
    return blurred
  }

  /** Pixels of what lies below, tile by tile; beyond the canvas its edge pixels go on. */
  private gather(below: Below, region: Region): Float32Array {
    const { canvas } = this.settings,
      side = 2 ** region.level
    const width = Math.ceil(canvas.width / side),
      height = Math.ceil(canvas.height / side)
    const out = new Float32Array(region.width * region.height * 4)
    const clamp = (v: number, most: number) => (v < 0 ? 0 : v > most ? most : v)
    const left = clamp(region.x, width - 1),
      right = clamp(region.x + region.width - 1, width - 1),
      top = clamp(region.y, height - 1),
      bottom = clamp(region.y + region.height - 1, height - 1)
    const take = (tile: Region, data: Float32Array) => {
      const x0 = Math.max(left, tile.x),
        x1 = Math.min(right + 1, tile.x + tile.width)
      for (let y = Math.max(top, tile.y); y <= Math.min(bottom, tile.y + tile.height - 1); y++) {
        const start = ((y - tile.y) * tile.width + x0 - tile.x) * 4
        out.set(data.subarray(start, start + (x1 - x0) * 4), ((y - region.y) * region.width + x0 - region.x) * 4)
      }
    }
    if (this.sparing) {
      const part: Region = { level: region.level, x: left, y: top, width: right - left + 1, height: bottom - top + 1 }
      take(part, this.drawn(below, part))
    } else
      for (let ty = Math.floor(top / TILE); ty <= Math.floor(bottom / TILE); ty++) {
        for (let tx = Math.floor(left / TILE); tx <= Math.floor(right / TILE); tx++) {
          const tile: Region = {
            level: region.level,
            x: tx * TILE,
            y: ty * TILE,
            width: Math.min(TILE, width - tx * TILE),
            height: Math.min(TILE, height - ty * TILE),
          }
          const part = this.knows(below, tile) ? tile : partNeeded(tile, left, right, top, bottom)
          take(part, this.tileOf(below, part))
        }
      }
    this.extendEdges(out, region, left, right, top, bottom)
    return out
  }

  private extendEdges(
    out: Float32Array,
    region: Region,
    left: number,
    right: number,
    top: number,
    bottom: number,
  ): void {
    const { width } = region
    for (let y = top - region.y; y <= bottom - region.y; y++) {
      const row = y * width * 4,
        first = row + (left - region.x) * 4,
        last = row + (right - region.x) * 4
      for (let i = row; i < first; i += 4) out.copyWithin(i, first, first + 4)
      for (let i = last + 4; i < row + width * 4; i += 4) out.copyWithin(i, last, last + 4)
    }
    const firstRow = (top - region.y) * width * 4,
      lastRow = (bottom - region.y) * width * 4
    for (let y = 0; y < top - region.y; y++) out.copyWithin(y * width * 4, firstRow, firstRow + width * 4)
    for (let y = bottom - region.y + 1; y < region.height; y++)
      out.copyWithin(y * width * 4, lastRow, lastRow + width * 4)
  }

  /** Fills `cover` with a row of a mask; false where the mask hides all of it. */
  private coverRows(mask: PlacedMask | undefined, region: Region): ((y: number) => boolean) | null {
    if (!mask) return null
    const { density = 1, invert = false, outsideShown = false } = mask
    const gain = invert ? -density : density,
      lift = 1 - density + (invert ? density : 0)
    const source = pickLevel(mask.levels.length, mask.toCanvas, region),
      { width } = region,
      { run } = this.stack
    if (!source)
      return () => {
        this.stack.floats(this.cover, width).fill(gain * (outsideShown ? 1 : 0) + lift)
        return true
      }
    const matte = mask.levels[source.level],
      outside = outsideShown ? 255 : 0
    if (isShift(source.map)) {
      const shiftX = Math.round(source.map[4]),
        shiftY = Math.round(source.map[5])
      const from = Math.min(width, Math.max(0, -shiftX)),
        to = Math.max(from, Math.min(width, matte.width - shiftX))
      return (y) => {
        const row = y + shiftY,
          bytes = this.stack.bytes(this.bytes, width)
        if (row < 0 || row >= matte.height) bytes.fill(outside)
        else {
          bytes.fill(outside, 0, from)
          bytes.fill(outside, to)
          const start = row * matte.width + from + shiftX
          bytes.set(matte.data.subarray(start, start + to - from), from)
        }
        return run.coverRow(this.bytes, this.cover, width, gain, lift) !== 0
      }
    }
    return (y) => {
      const values = this.stack.floats(this.cover, width)
      if (!sampleCoverageRow(matte, source.map, y, values, outside)) {
        if (gain * (outside / 255) + lift <= 0) return false
        values.fill(outside / 255)
      }
      if (gain !== 1 || lift !== 0) run.scaleFloats(this.cover, width, gain, lift)
      return true
    }
  }
}

let shared: Renderer | undefined
/** One region of a composition, nothing kept. */
export function composeRegion(nodes: readonly Node[], region: Region, settings: Partial<Settings> = {}): Picture {
  shared ??= new Renderer(0)
  const side = 2 ** region.level
  shared.show(nodes, {
    canvas: { width: (region.x + region.width) * side, height: (region.y + region.height) * side },
    ...settings,
  })
  const made = shared.region(region)
  shared.show([], { canvas: region }) // holds on to no picture
  return made
}

/** The mip level that comes nearest to one source pixel for each output pixel, and the map from the region's pixels to its pixels. */
function pickLevel(count: number, toCanvas: Affine, region: Region, least = 0): { level: number; map: Affine } | null {
  let toSource: Affine
  try {
    toSource = inverse(toCanvas)
  } catch {
    return null
  } // flattened to a line: nothing to see
  const full = compose(toSource, scaling(2 ** region.level))
  const level = Math.min(count - 1, Math.max(least, Math.round(Math.log2(meanScale(full)))))
  const map = compose(scaling(1 / 2 ** level), full)
  const [e, f] = apply(map, region.x, region.y)
  return { level, map: [map[0], map[1], map[2], map[3], e, f] }
}

/** Pixels of a picture that are laid out at a time. */
const MOST_LOOKED_AT = 4e6
const areaLookedAt = ([a, b, c, d]: Affine, { width, height }: Region): number =>
  (Math.abs(a) * width + Math.abs(c) * height) * (Math.abs(b) * width + Math.abs(d) * height)

/** Rows of the region that a picture can touch: the vertical extent of its four corners, with two pixels to spare for the filter. */
function rowsTouched(picture: Size, map: Affine, region: Region): { from: number; to: number } {
  const back = inverse(map)
  const ys = [
    [0, 0],
    [picture.width, 0],
    [0, picture.height],
    [picture.width, picture.height],
  ].map(([x, y]) => apply(back, x, y)[1])
  return {
    from: Math.max(0, Math.floor(Math.min(...ys)) - 2),
    to: Math.min(region.height, Math.ceil(Math.max(...ys)) + 2),
  }
}

const showsAll = (node: Node): boolean =>
  node.opacity === 1 && !node.mask && !node.atop && (node.blend ?? 'normal') === 'normal'

/** The last node that hides everything below it in the region; 0 when none does. */
function lastCover(nodes: readonly Node[], region: Region): number {
  for (let i = nodes.length - 1; i > 0; i--) {
    const node = nodes[i]
    if (node.kind === 'fill' && node.fill.kind === 'colour' && showsAll(node)) return i
    if (node.kind !== 'picture' || !node.picture.opaque || !showsAll(node)) continue
    const [a, b, c, d] = node.toCanvas
    if (b !== 0 || c !== 0 || a <= 0 || d <= 0) continue
    const side = 2 ** region.level,
      full = node.picture.size ?? node.picture.levels[0]
    const [x0, y0] = apply(node.toCanvas, 0, 0),
      [x1, y1] = apply(node.toCanvas, full.width, full.height)
    const room = isIdentity(node.toCanvas) ? 0 : 2 * side * Math.max(1, a, d) // what interpolation and coarse levels may leave open at the rim
    if (
      x0 + room <= region.x * side &&
      y0 + room <= region.y * side &&
      x1 - room >= (region.x + region.width) * side &&
      y1 - room >= (region.y + region.height) * side
    )
      return i
  }
  return 0
}

/** One layer that lies on whole pixels of its level, with nothing to mix: its rows as they are. False when it is not so. */
function copyWhole(node: PictureNode, region: Region, data: Uint8ClampedArray): boolean {
  if (!showsAll(node) || node.picture.size) return false
  const source = pickLevel(node.picture.levels.length, node.toCanvas, region)
  if (!source || !isShift(source.map)) return false
  const picture = node.picture.levels[source.level],
    { width, height } = region
  const shiftX = Math.round(source.map[4]),
    shiftY = Math.round(source.map[5])
  const from = Math.max(0, -shiftX),
    to = Math.min(width, picture.width - shiftX)
  if (to > from) {
    for (let y = Math.max(0, -shiftY); y < Math.min(height, picture.height - shiftY); y++) {
      const start = (y + shiftY) * picture.width + shiftX
      data.set(picture.data.subarray((start + from) * 4, (start + to) * 4), (y * width + from) * 4)
    }
  }
  return true
}
