import { describe, expect, it } from 'vitest'
import { parseBatchPlan } from './batchPlan'

const recipe = { version: 1, steps: [{ kind: 'subject' }] }

describe('a batch’s plan', () => {
  it('is a plain recipe, completed', () => {
    const { output: goesOut, canvas, steps } = parseBatchPlan(recipe)
    expect(goesOut).toEqual({ what: 'cutout', fringe: 1, rim: 0, trim: false, format: 'png', quality: 92 })
    expect(canvas).toBeUndefined()
    expect(steps[0]).toMatchObject({ kind: 'subject', op: 'add' })
  })
  it('read again it is the same', () => {
    const plan = parseBatchPlan({
      ...recipe,
      canvas: { width: 3, height: 2 },
      output: { backdrop: '#aabbcc', format: 'jpeg' },
    })
    expect(parseBatchPlan(JSON.parse(JSON.stringify(plan)))).toEqual(plan)
  })
  it.each([
    [{ ...recipe, output: { format: 'jpeg' } }, /transparency/],
    [{ ...recipe, output: { format: 'gif' } }, /output\.format: takes one of/],
    [{ ...recipe, output: { colour: 1 } }, /output\.colour: the output has no such field/],
    [{ ...recipe, output: { backdrop: '#12' } }, /#rrggbb/],
    [{ ...recipe, output: { quality: 0 } }, /output\.quality/],
    [{ ...recipe, canvas: { width: 0, height: 2 } }, /canvas: takes/],
    [{ ...recipe, version: 2 }, /version/],
    [[], /object/],
  ])('%j is refused in a sentence', (json, sentence) => {
    expect(() => parseBatchPlan(json)).toThrow(sentence)
  })
})
