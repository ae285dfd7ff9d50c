import { describe, expect, it } from 'vitest'
import { Scratch } from './scratch'

describe('scratch arrays', () => {
  it('are handed out again after the next beginning, and are as long as was asked for', () => {
    const scratch = new Scratch(),
      first = scratch.begin().floats(6)
    first.fill(3)
    const again = scratch.begin().floats(4)
    expect(again.length).toBe(4)
    expect(again.buffer).toBe(first.buffer)
    expect(scratch.begin().words(60).length).toBe(60)
  })

  it('never overlap while they are in use, however deep work is nested, and are free again when it ends or fails', () => {
    const scratch = new Scratch(),
      outer = scratch.bytes(8).fill(1)
    let inner: Uint8Array | undefined
    expect(() =>
      scratch.during(() => {
        inner = scratch.bytes(8).fill(2)
        throw new Error('stopped')
      }),
    ).toThrow('stopped')
    expect([...outer]).toEqual(Array(8).fill(1))
    expect(scratch.bytes(8).buffer).toBe(inner!.buffer)
  })
})
