import fc from '../../../tests/properties'
import { describe, expect, it } from 'vitest'
import { JSON_DEPTH, JsonError, readJson } from './json'

const bytes = (text: string) => new TextEncoder().encode(text)

describe('JSON from outside', () => {
  it('is read as JSON.parse reads it', () => {
    fc.assert(
      fc.property(fc.json({ maxDepth: 6 }), (text) => {
        const sent = bytes(text) // half pairs of surrogates do not travel
        expect(readJson(sent)).toEqual(JSON.parse(new TextDecoder().decode(sent)))
      }),
    )
  })
  it('nested too deep is refused before it is built, however long; brackets in texts do not count', () => {
    for (const open of ['[', '{"a":']) expect(() => readJson(bytes(open.repeat(1_000_000)))).toThrow(/nested deeper/)
    expect(readJson(bytes(JSON.stringify(['['.repeat(5000), '\\"[['])))).toEqual(['['.repeat(5000), '\\"[['])
    const deep = '['.repeat(JSON_DEPTH) + ']'.repeat(JSON_DEPTH)
    expect(() => readJson(bytes(deep))).not.toThrow()
    expect(() => readJson(bytes(`[${deep}]`))).toThrow(JsonError)
  })
  it('that is none is refused', () => {
    for (const wrong of ['', '{', 'nope', '[1,]']) expect(() => readJson(bytes(wrong))).toThrow(/is not JSON/)
    expect(() => readJson(Uint8Array.of(0x22, 0xff, 0x22))).toThrow(/is not JSON/)
  })
})
