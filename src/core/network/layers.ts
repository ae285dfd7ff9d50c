/**
 * The layers of a small convolutional network, run by the kernels: planes of px with their channels side by side, a frame of zeros around them.
 * Sources: He, Zhang, Ren and Sun, "Deep residual learning for image recognition", CVPR 2016 (residual blocks);
 * Ronneberger, Fischer and Brox, "U-Net", MICCAI 2015 (down and up again, with what each size saw added on the way up);
 * Lavin and Gray, "Fast algorithms for convolutional neural networks", CVPR 2016 (two by two px at once).
 */
import { type KernelStack } from '../kernels'

/** Weights of a convolution as they lie in the file: whole numbers from −127 to 127, a scale and a bias for each output. */
export interface Convolution {
  readonly side: 1 | 3
  readonly inputs: number
  /** A multiple of eight. */ readonly outputs: number
  /** Where the kernels find its weights and biases as floats. */ readonly weights: number
  readonly bias: number
  /** Its weights are those for two by two px at once (`turned`): for a side of 3 px, every px of the input looked at. */
  readonly inTiles?: boolean
}

/** The same convolution, with weights for two by two px at once: 16 multiplications for each input and output instead of 36. @param to room for them */
export function turned({ run }: KernelStack, layer: Convolution, to: number): Convolution {
  run.turnWeights(layer.weights, layer.inputs, layer.outputs, to)
  return { ...layer, weights: to, inTiles: true }
}
/** Bytes that the weights for two by two px take. */
export const turnedBytes = (inputs: number, outputs: number): number => 16 * inputs * outputs * 4
/** So many tiles of two by two px are worked on at once: what lies between stays in the processor's cache. */
const TILES = 48

/** Px of a size in the kernels' memory: `at` is the top left one, `row` and `px` bytes lead to the next row and px. */
export interface Plane {
  readonly at: number
  readonly row: number
  readonly px: number
  readonly width: number
  readonly height: number
  readonly channels: number
}

export function takePlane(stack: KernelStack, width: number, height: number, channels: number): Plane {
  const px = channels * 4,
    row = (width + 2) * px,
    bytes = (height + 3) * row, // one more row: tiles of two by two px may look beyond the frame
    start = stack.take(bytes)
  stack.bytes(start, bytes).fill(0)
  return { at: start + row + px, row, px, width, height, channels }
}

export interface Convolved {
  /** How many px of the input lead to the next output: 1 or 2. */ readonly stride?: number
  /** Added before what is below zero is cut off. */ readonly more?: Plane
  readonly rectify?: boolean
}

/** The convolution of a plane, into another one. */
export function convolve(
  stack: KernelStack,
  from: Plane,
  { side, inputs, outputs, weights, bias, inTiles }: Convolution,
  to: Plane,
  { stride = 1, more, rectify = true }: Convolved = {},
): void {
  const { run } = stack,
    start = side === 3 ? from.at - from.row - from.px : from.at
  if (inTiles) {
    const { width, height } = to,
      across = (width + 1) >> 1,
      rows = Math.max(1, Math.floor(TILES / across)),
      room = stack.take(64 * (inputs + outputs) * ((across * rows + 3) & ~3))
    run.convolveTiles(
      start,
      from.row,
      inputs,
      weights,
      bias,
      more?.at ?? 0,
      to.at,
      to.row,
      outputs,
      width,
      height,
      rectify,
      rows,
      room,
    )
    stack.release(room)
    return
  }
  for (let y = 0; y < to.height; y++)
    run.convolveRow(
      start + y * stride * from.row,
      from.row,
      stride * from.px,
      side,
      inputs,
      weights,
      bias,
      more ? more.at + y * more.row : 0,
      to.at + y * to.row,
      outputs,
      to.width,
      rectify,
    )
}

/** Adds a plane of half the size to each of the two by two px it stands for, and cuts off what is below zero. */
export function addDoubled(stack: KernelStack, small: Plane, to: Plane): void {
  for (let y = 0; y < to.height; y++)
    stack.run.addDoubledRow(small.at + (y >> 1) * small.row, to.at + y * to.row, to.channels, to.width)
}

/** Adds to every px what a convolution of one px says of the mean of all, and cuts off what is below zero. */
export function addContext(stack: KernelStack, plane: Plane, { weights, bias, inputs, outputs }: Convolution): void {
  const mean = new Float64Array(inputs)
  for (let y = 0; y < plane.height; y++) {
    const row = stack.floats(plane.at + y * plane.row, plane.width * inputs)
    for (let i = 0; i < row.length; i++) mean[i % inputs] += row[i]
  }
  const w = stack.floats(weights, inputs * outputs),
    said = Float64Array.from(stack.floats(bias, outputs))
  for (let c = 0; c < inputs; c++) {
    const share = mean[c] / (plane.width * plane.height)
    for (let o = 0; o < outputs; o++) said[o] += share * w[(o >> 3) * inputs * 8 + c * 8 + (o & 7)]
  }
  for (let y = 0; y < plane.height; y++) {
    const row = stack.floats(plane.at + y * plane.row, plane.width * outputs)
    for (let i = 0; i < row.length; i++) row[i] = Math.max(0, row[i] + said[i % outputs])
  }
}
