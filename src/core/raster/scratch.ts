/** Arrays for one piece of work after another: fresh ones for each would keep the garbage collector at work beside the threads. */
export class Scratch {
  private readonly kept: ArrayBuffer[] = []
  private next = 0

  /** From here on everything handed out before may be handed out again. */
  begin(): this {
    this.next = 0
    return this
  }
  /** What `work` asks for may be handed out again when it ends. */
  during<T>(work: () => T): T {
    const before = this.next
    try {
      return work()
    } finally {
      this.next = before
    }
  }
  /** Of so many numbers, as the last piece of work left them. */
  floats(length: number): Float32Array<ArrayBuffer> {
    return new Float32Array(this.room(4 * length), 0, length)
  }
  bytes(length: number): Uint8Array<ArrayBuffer> {
    return new Uint8Array(this.room(length), 0, length)
  }
  shorts(length: number): Uint16Array<ArrayBuffer> {
    return new Uint16Array(this.room(2 * length), 0, length)
  }
  words(length: number): Int32Array<ArrayBuffer> {
    return new Int32Array(this.room(4 * length), 0, length)
  }
  clamped(length: number): Uint8ClampedArray<ArrayBuffer> {
    return new Uint8ClampedArray(this.room(length), 0, length)
  }
  private room(bytes: number): ArrayBuffer {
    const i = this.next++
    if (!this.kept[i] || this.kept[i].byteLength < bytes) this.kept[i] = new ArrayBuffer(bytes)
    return this.kept[i]
  }
}
