/** Reads the picture under the pointer: one reading at a time, the newest place last. */
import { type Engine } from '@/engine/page/engine'
import { get, set } from './bench'

export class PixelUnderPointer {
  private reading = false
  private again = false

  constructor(private readonly engine: () => Engine) {}

  read(): void {
    const { pointer } = get()
    if (!pointer) return
    if (this.reading) {
      this.again = true
      return
    }
    this.reading = true
    this.engine()
      .pixel(Math.floor(pointer[0]), Math.floor(pointer[1]))
      .then(
        (pixel) => {
          if (get().pointer) set({ pixel })
        },
        () => {},
      )
      .finally(() => {
        this.reading = false
        if (!this.again) return
        this.again = false
        this.read()
      })
  }
}
