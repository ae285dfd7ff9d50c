import { INSIDE, OUTSIDE } from './gridCut'

/** Which pixels of a decided picture are inside, one bit each. */
export interface PackedState {
  readonly length: number
  readonly bits: Uint8Array
}

/** @param state INSIDE or OUTSIDE for each pixel */
export function packed(state: Uint8Array): PackedState {
  const bits = new Uint8Array((state.length + 7) >> 3)
  for (let i = 0; i < state.length; i++) if (state[i] === INSIDE) bits[i >> 3] |= 1 << (i & 7)
  return { length: state.length, bits }
}

export function unpacked({ length, bits }: PackedState): Uint8Array {
  const state = new Uint8Array(length)
  for (let i = 0, byte = 0; i < length; i++, byte >>= 1) {
    if (!(i & 7)) byte = bits[i >> 3]
    state[i] = byte & 1 ? INSIDE : OUTSIDE
  }
  return state
}
