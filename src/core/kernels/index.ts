/**
 * Inner loops that TypeScript leaves far from the memory's speed, as WebAssembly with SIMD. Their sources are in assembly/;
 * `bin/kernels` compiles them. One instance for each thread: callers lay out their data from `KERNEL_BASE` on, use it at once and
 * copy it out before anything else runs.
 */
import { COMPILED } from './compiled'
import { type Exports } from './exports'

export interface Kernels extends Exports {
  /** All of the memory, valid until the next call of `kernels`. */ readonly bytes: Uint8Array<ArrayBuffer>
}

/** The first byte callers may use. */
export const KERNEL_BASE = 4096
const PAGE = 65_536
/** Rasters that are gone through once are copied in and worked on so many bytes at a time: what the processor's cache holds. */
export const SLICE_BYTES = 256 * 1024

/** The bytes that a text in base64 stands for. */
export function bytesOfBase64(text: string): Uint8Array<ArrayBuffer> {
  const characters = atob(text),
    bytes = new Uint8Array(characters.length)
  for (let i = 0; i < bytes.length; i++) bytes[i] = characters.charCodeAt(i)
  return bytes
}

let module: WebAssembly.Module | undefined
const instantiate = (): Exports =>
  new WebAssembly.Instance((module ??= new WebAssembly.Module(bytesOfBase64(COMPILED))), {})
    .exports as unknown as Exports

let instance: Exports | undefined

/** The kernels, with at least so many bytes to use after KERNEL_BASE. Callers work in slices: the memory never shrinks. */
export function kernels(size: number): Kernels {
  instance ??= instantiate()
  const { memory } = instance
  const missing = KERNEL_BASE + size - memory.buffer.byteLength
  if (missing > 0) memory.grow(Math.ceil(missing / PAGE))
  return { ...instance, bytes: new Uint8Array(memory.buffer) }
}

/** Kernels with memory of their own, handed out piece by piece and given back in the opposite order: for work that goes on over many calls. */
export class KernelStack {
  readonly run: Exports = instantiate()
  private top = KERNEL_BASE

  /** Room for so many bytes, aligned to 16. Views made earlier may no longer hold: make them anew after each call. */
  take(bytes: number): number {
    const at = this.top
    this.top += (bytes + 15) & ~15
    const missing = this.top - this.run.memory.buffer.byteLength
    if (missing > 0) this.run.memory.grow(Math.ceil(missing / PAGE))
    return at
  }
  /** Gives back everything from a place on. */
  release(at: number): void {
    this.top = at
  }
  floats(at: number, count: number): Float32Array<ArrayBuffer> {
    return new Float32Array(this.run.memory.buffer, at, count)
  }
  words(at: number, count: number): Int32Array<ArrayBuffer> {
    return new Int32Array(this.run.memory.buffer, at, count)
  }
  bytes(at: number, count: number): Uint8Array<ArrayBuffer> {
    return new Uint8Array(this.run.memory.buffer, at, count)
  }
}

/** Memory above this is not kept for the next work, bytes. */
const KEPT = 64 << 20

let shared: KernelStack | undefined

/** Room in kernels for as long as `work` takes; it may call what asks for room too. All of it is given back when it ends. */
export function withRoom<T>(work: (stack: KernelStack) => T): T {
  const stack = (shared ??= new KernelStack()),
    start = stack.take(0)
  try {
    return work(stack)
  } finally {
    stack.release(start)
    if (start === KERNEL_BASE && stack.run.memory.buffer.byteLength > KEPT) shared = undefined
  }
}
