/**
 * The network that says how probably each pixel belongs to what the hints mean. Trained by training/train.py on scenes we draw ourselves; its weights
 * are `weights.ts`, made by training/export.py and given by `withWeights.ts`: 2.0 million of them. One look takes some 0.4 billion multiplications
 * and 12 MB beside the 13 that they take as floats; training/README.md says more.
 */
import { bytesOfBase64, KernelStack } from '../kernels'
import {
  addContext,
  addDoubled,
  type Convolution,
  convolve,
  type Plane,
  takePlane,
  turned,
  turnedBytes,
} from './layers'

/** What the network sees: red, green and blue from −1 to 1, the box (1 inside, −1 outside, 0 where there is none), keep marks and drop marks 0-1. */
export const CHANNELS = 6
/** Its sides are multiples of this. */
export const STEP = 16

/** Channels at half the size, a quarter, an eighth and a sixteenth. */
const [A, B, C, D] = [24, 48, 96, 128]

/** In the order of the file. */
const SHAPES = {
  stem: [3, CHANNELS, A],
  r1a: [3, A, A],
  r1b: [3, A, A],
  d2: [3, A, B],
  r2a: [3, B, B],
  r2b: [3, B, B],
  d3: [3, B, C],
  r3a: [3, C, C],
  r3b: [3, C, C],
  d4: [3, C, D],
  r4a: [3, D, D],
  r4b: [3, D, D],
  r5a: [3, D, D],
  r5b: [3, D, D],
  r6a: [3, D, D],
  r6b: [3, D, D],
  r7a: [3, D, D],
  r7b: [3, D, D],
  context: [1, D, D],
  u3: [1, D, C],
  q3a: [3, C, C],
  q3b: [3, C, C],
  q4a: [3, C, C],
  q4b: [3, C, C],
  u2: [1, C, B],
  q2a: [3, B, B],
  q2b: [3, B, B],
  u1: [1, B, A],
  q1a: [3, A, A],
  q1b: [3, A, A],
  // The first four are the thing at the two by two px that a px of half the size stands for; the others its outline, which it was taught to know as well.
  // Of a place seen for its sky they are its water and its sky; asked for its horizon, what lies below that and its sky.
  out: [3, A, 8],
} as const

/** Residual blocks that were added later: weights made before lack them, and these do nothing then. */
type Later = 'r6a' | 'r6b' | 'r7a' | 'r7b' | 'q4a' | 'q4b'
const LATER: readonly string[] = ['r6a', 'r6b', 'r7a', 'r7b', 'q4a', 'q4b'] satisfies Later[]

/** These look at every second px of their input, and so make half its size. */
const HALVING: readonly string[] = ['stem', 'd2', 'd3', 'd4'] satisfies (keyof typeof SHAPES)[]

type Shape = (typeof SHAPES)[keyof typeof SHAPES]
type Layers = Record<Exclude<keyof typeof SHAPES, Later>, Convolution> & Partial<Record<Later, Convolution>>

/** In a file: a scale and a bias for each output, four bytes each, and a byte for each weight. */
const bytesOf = ([side, inputs, outputs]: Shape) => outputs * (8 + side * side * inputs)

/** What it has learnt to tell: each with weights of its own. */
export type Lesson = 'things' | 'water' | 'sky' | 'anchors' | 'horizon'

/**
 * Raised when the weights for things are others: the versions of what asks for them are counted from here, and what an editor has stays as it was made.
 * It is above every version these finders counted for themselves before (3 at most): a number never comes back for something else.
 */
export const THINGS_VERSION = 6

/** The network was asked before it was given its weights. */
export class NoWeights extends Error {
  constructor(readonly lesson: Lesson) {
    super(`The network has no weights for ${lesson}: import core/network/withWeights first.`)
  }
}

interface Prepared {
  readonly stack: KernelStack
  readonly layers: Layers
}
const ready = new Map<Lesson, Prepared>(),
  given = new Map<Lesson, () => string>()
/** @param take base64, as training/export.py writes it: asked once, when the network is first asked; see withWeights.ts */
export const giveWeights = (lesson: Lesson, take: () => string): void => void given.set(lesson, take)

function prepared(lesson: Lesson): Prepared {
  const known = ready.get(lesson),
    take = given.get(lesson)
  if (known) return known
  if (!take) throw new NoWeights(lesson)
  const file = bytesOfBase64(take()),
    view = new DataView(file.buffer),
    stack = new KernelStack()
  let at = 0
  const read = ([side, inputs, outputs]: Shape, inTiles: boolean): Convolution => {
    const count = side * side * inputs * outputs,
      bias = stack.take(outputs * 4),
      kept = inTiles ? stack.take(turnedBytes(inputs, outputs)) : 0,
      weights = stack.take(count * 4),
      w = stack.floats(weights, count),
      b = stack.floats(bias, outputs),
      scales = Float32Array.from({ length: outputs }, (_, o) => view.getFloat32(at + o * 4, true)),
      perEight = side * side * inputs * 8
    for (let o = 0; o < outputs; o++) b[o] = view.getFloat32(at + (outputs + o) * 4, true)
    at += outputs * 8
    const numbers = new Int8Array(file.buffer, at, count)
    for (let first = 0; first < outputs; first += 8)
      for (let i = (first >> 3) * perEight, end = i + perEight; i < end; i++)
        w[i] = numbers[i] * scales[first + (i & 7)]
    at += count
    const layer = { side, inputs, outputs, weights, bias }
    if (!inTiles) return layer
    const made = turned(stack, layer, kept)
    stack.release(weights)
    return made
  }
  const shapes = Object.entries(SHAPES),
    whole = file.length === shapes.reduce((sum, [, shape]) => sum + bytesOf(shape), 0)
  const layers = Object.fromEntries(
    shapes
      .filter(([name]) => whole || !LATER.includes(name))
      .map(([name, shape]) => [name, read(shape, shape[0] === 3 && !HALVING.includes(name))]),
  ) as unknown as Layers
  const made = { stack, layers }
  ready.set(lesson, made)
  return made
}

/**
 * How much each pixel speaks for what is meant, as the logarithm of the odds (nats).
 * @param input CHANNELS floats for each of width × height px, row by row; both multiples of STEP and at least four times that
 */
export const runNetwork = (
  input: Float32Array,
  width: number,
  height: number,
  lesson: Exclude<Lesson, 'sky'> = 'things',
): Float32Array => answers(lesson, input, width, height, 1)[0]

/** How much each pixel of a place speaks for water, and for sky, the same way. */
export const seeSky = (input: Float32Array, width: number, height: number): [water: Float32Array, sky: Float32Array] =>
  answers('sky', input, width, height, 2) as [Float32Array, Float32Array]

/** The first so many of the two planes it answers with. */
function answers(lesson: Lesson, input: Float32Array, width: number, height: number, count: number): Float32Array[] {
  const { stack, layers } = prepared(lesson),
    start = stack.take(0)
  const plane = (level: number, channels: number) => takePlane(stack, width >> level, height >> level, channels)
  const residual = (at: Plane, one: Convolution, other: Convolution, level: number): Plane => {
    const between = plane(level, at.channels),
      to = plane(level, at.channels)
    convolve(stack, at, one, between)
    convolve(stack, between, other, to, { more: at })
    return to
  }
  const further = (at: Plane, one: Convolution | undefined, other: Convolution | undefined, level: number): Plane =>
    one && other ? residual(at, one, other, level) : at
  const down = (from: Plane, by: Convolution, level: number): Plane => {
    const to = plane(level, by.outputs)
    convolve(stack, from, by, to, { stride: 2 })
    return to
  }
  const up = (from: Plane, by: Convolution, onto: Plane, level: number): Plane => {
    const small = plane(level + 1, by.outputs)
    convolve(stack, from, by, small, { rectify: false })
    addDoubled(stack, small, onto)
    return onto
  }
  try {
    const seen = plane(0, CHANNELS)
    for (let y = 0; y < height; y++)
      stack
        .floats(seen.at + y * seen.row, width * CHANNELS)
        .set(input.subarray(y * width * CHANNELS, (y + 1) * width * CHANNELS))
    const { stem, r1a, r1b, d2, r2a, r2b, d3, r3a, r3b, d4, r4a, r4b, r5a, r5b, r6a, r6b, r7a, r7b, context } = layers,
      { u3, q3a, q3b, q4a, q4b, u2, q2a, q2b, u1, q1a, q1b, out } = layers
    const e1 = residual(down(seen, stem, 1), r1a, r1b, 1),
      e2 = residual(down(e1, d2, 2), r2a, r2b, 2),
      e3 = residual(down(e2, d3, 3), r3a, r3b, 3),
      e4 = residual(down(e3, d4, 4), r4a, r4b, 4)
    addContext(stack, e4, context)
    const t4 = further(further(residual(e4, r5a, r5b, 4), r6a, r6b, 4), r7a, r7b, 4),
      t3 = further(residual(up(t4, u3, e3, 3), q3a, q3b, 3), q4a, q4b, 3),
      t2 = residual(up(t3, u2, e2, 2), q2a, q2b, 2),
      t1 = residual(up(t2, u1, e1, 1), q1a, q1b, 1),
      last = plane(1, out.outputs)
    convolve(stack, t1, out, last, { rectify: false })
    return Array.from({ length: count }, (_, answer) => {
      const plane = new Float32Array(width * height)
      for (let y = 0, i = 0; y < height; y++) {
        const row = stack.floats(last.at + (y >> 1) * last.row, last.width * last.channels),
          first = 4 * answer + 2 * (y & 1)
        for (let x = 0; x < width; x++, i++) plane[i] = row[(x >> 1) * last.channels + first + (x & 1)]
      }
      return plane
    })
  } finally {
    stack.release(start)
  }
}
