/** CIELAB of many pixels at once, in the kernels. Sources: as lab.ts. */
import { withRoom } from '../kernels'
import { LINEAR_OF_BYTE } from './srgb'

/** Pixels that are worked on at a time: so few that they stay in the processor's cache. */
const SLICE = 1 << 10

/** L*, a*, b* of `count` pixels (words, red in the low byte) from `from` on, into the three rows from `at` on. */
export function labRow(
  words: Uint32Array,
  from: number,
  count: number,
  L: Float32Array,
  a: Float32Array,
  b: Float32Array,
  at = 0,
): void {
  withRoom((stack) => {
    const most = (Math.min(SLICE, count) + 3) & ~3,
      plane = most * 4,
      source = stack.take(plane),
      out = stack.take(3 * plane),
      linear = stack.take(LINEAR_OF_BYTE.byteLength)
    stack.floats(linear, 256).set(LINEAR_OF_BYTE)
    for (let done = 0; done < count; done += most) {
      const n = Math.min(most, count - done)
      stack.words(source, n).set(words.subarray(from + done, from + done + n))
      stack.run.labRow(source, out, plane, n, linear)
      L.set(stack.floats(out, n), at + done)
      a.set(stack.floats(out + plane, n), at + done)
      b.set(stack.floats(out + 2 * plane, n), at + done)
    }
  })
}
