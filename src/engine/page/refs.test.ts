import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { RefReader, RefSender } from './refs'

describe('records by number', () => {
  it('arrive as they were sent, each once, also after all were forgotten', () => {
    fc.assert(
      fc.property(fc.array(fc.array(fc.nat(30), { maxLength: 20 }), { maxLength: 20 }), fc.nat(15), (lists, forget) => {
        const records = Array.from({ length: 31 }, (_, n) => ({ n })),
          sender = new RefSender(),
          reader = new RefReader(),
          travelled = new Set<number>()
        lists.forEach((list, i) => {
          const sent = sender.send(list.map((n) => records[n])),
            again = i === forget ? structuredClone({ ...sent, fresh: sent.fresh }) : structuredClone(sent)
          for (const [number] of again.fresh) {
            expect(travelled.has(number)).toBe(false)
            travelled.add(number)
          }
          expect(reader.read<{ n: number }>(again).map((record) => record.n)).toEqual(list)
        })
      }),
    )
  })
  it('many are forgotten together and sent anew', () => {
    const sender = new RefSender(),
      reader = new RefReader()
    const first = [{ n: -1 }]
    reader.read(sender.send(first))
    for (let i = 0; i < 3; i++) reader.read(sender.send(Array.from({ length: 9000 }, (_, n) => ({ n }))))
    expect(reader.read(sender.send(first))).toEqual(first)
  })
})
