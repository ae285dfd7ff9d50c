import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { Held } from './held'

const turn = () => new Promise((resolve) => setTimeout(resolve))

describe('what is held', () => {
  it('is made once for all who ask, and dropped when the last lets go', async () => {
    const dropped: string[] = []
    const held = new Held<string>((value) => dropped.push(value))
    let made = 0
    const make = async () => `made ${++made}`
    const a = held.hold('key', make),
      b = held.hold('key', make)
    expect(a.made).toBeUndefined()
    expect(await a.ready).toBe('made 1')
    expect(await b.ready).toBe('made 1')
    expect(b.made).toEqual({ value: 'made 1' })
    a.release()
    a.release()
    expect(dropped).toEqual([])
    b.release()
    expect(dropped).toEqual(['made 1'])
    expect(held.size).toBe(0)
  })

  it('is dropped on arrival when everyone has let go meanwhile; who asks before that joins in', async () => {
    const dropped: string[] = []
    const held = new Held<string>((value) => dropped.push(value))
    let finish: (value: string) => void = () => {}
    let asked: () => boolean = () => true
    let times = 0
    const make = (wanted: () => boolean) => {
      times++
      asked = wanted
      return new Promise<string>((resolve) => (finish = resolve))
    }
    const first = held.hold('key', make)
    await turn()
    expect(asked()).toBe(true)
    first.release()
    expect(asked()).toBe(false)
    const second = held.hold('key', make)
    expect(asked()).toBe(true)
    second.release()
    finish('unwanted')
    await turn()
    expect([times, dropped, held.size]).toEqual([1, ['unwanted'], 0])

    const third = held.hold('key', make)
    await turn()
    third.release()
    const fourth = held.hold('key', make)
    finish('wanted again')
    expect(await fourth.ready).toBe('wanted again')
    expect([times, dropped, held.value('key')]).toEqual([2, ['unwanted'], 'wanted again'])
  })

  it('that failed is made anew by the next who asks', async () => {
    const held = new Held<number>()
    let tries = 0
    const make = async () => {
      if (++tries === 1) throw new Error('away')
      return tries
    }
    await expect(held.hold('key', make).ready).rejects.toThrow('away')
    expect(await held.hold('key', make).ready).toBe(2)
  })

  it('never takes away what somebody holds or what is kept, whatever the order', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.constantFrom('hold', 'release', 'keep', 'wait'), fc.nat(2)), { maxLength: 60 }),
        async (steps) => {
          const there = new Set<string>()
          const held = new Held<string>((value) => there.delete(value))
          const holds: { name: string; key: string; release(): void }[] = []
          let count = 0,
            kept = new Set<string>()
          for (const [what, n] of steps) {
            const key = `k${n}`
            if (what === 'hold') {
              const hold = held.hold(key, async () => {
                const name = `${key} ${++count}`
                there.add(name)
                return name
              })
              const mine = { name: '', key, release: () => hold.release() }
              holds.push(mine)
              void hold.ready.then((name) => (mine.name = name))
            } else if (what === 'release') holds.splice(n, 1)[0]?.release()
            else if (what === 'keep') held.keep((kept = new Set([key])))
            else await turn()
            for (const hold of holds) if (hold.name) expect(there.has(hold.name)).toBe(true)
          }
          await turn()
          for (const hold of holds) expect(there.has(hold.name)).toBe(true)
          for (const hold of holds.splice(0)) hold.release()
          await turn()
          expect([...there].every((name) => kept.has(name.split(' ')[0]))).toBe(true)
        },
      ),
      { numRuns: 200 },
    )
  })
})
