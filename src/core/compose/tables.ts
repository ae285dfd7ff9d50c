/** The sRGB curve in the forms the kernels read, laid into a kernel memory once. */
import { fromLinear, LINEAR_OF_BYTE, toLinear } from '../colour/srgb'
import { type KernelStack } from '../kernels'

/** Steps of the tables between encoded and linear; the one to encoded is read by the root of the value, where its curve is gentle. */
export const CURVE_STEPS = 4096
export const PACK_STEPS = 8192

export interface Tables {
  /** 256 floats: linear light of each byte. */ readonly linearOfByte: number
  readonly toLinear: number
  readonly toEncoded: number
  /** Bytes by root of light. */ readonly byteOfRoot: number
}

export function layTables(stack: KernelStack): Tables {
  const linearOfByte = stack.take(256 * 4),
    linear = stack.take((CURVE_STEPS + 1) * 4),
    encoded = stack.take((CURVE_STEPS + 1) * 4),
    bytes = stack.take(PACK_STEPS + 1)
  stack.floats(linearOfByte, 256).set(LINEAR_OF_BYTE)
  stack.floats(linear, CURVE_STEPS + 1).forEach((_, i, table) => {
    table[i] = toLinear(i / CURVE_STEPS)
  })
  stack.floats(encoded, CURVE_STEPS + 1).forEach((_, i, table) => {
    table[i] = fromLinear((i / CURVE_STEPS) ** 2)
  })
  stack.bytes(bytes, PACK_STEPS + 1).forEach((_, i, table) => {
    table[i] = Math.round(255 * fromLinear((i / PACK_STEPS) ** 2))
  })
  return { linearOfByte, toLinear: linear, toEncoded: encoded, byteOfRoot: bytes }
}
