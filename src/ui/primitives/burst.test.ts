import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { burst, endBurst } from './burst'

describe('bursts', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())
  it('of one control are one change, the last; another control ends them; nothing is made twice, and what is shown stays', () => {
    const made: string[] = []
    for (let i = 0; i < 30; i++) {
      burst(
        'opacity',
        () => {},
        () => made.push(`opacity ${i}`),
      )
      vi.advanceTimersByTime(100)
    }
    expect(made).toEqual([])
    burst(
      'feather',
      () => made.push('feather shown'),
      () => made.push('feather'),
    )
    expect(made).toEqual(['opacity 29', 'feather shown'])
    vi.advanceTimersByTime(1000)
    expect(made).toEqual(['opacity 29', 'feather shown', 'feather'])
    endBurst()
    vi.advanceTimersByTime(1000)
    expect(made).toHaveLength(3)
  })
  it('what is done next comes after them', () => {
    const made: string[] = []
    burst(
      'opacity',
      () => {},
      () => made.push('opacity'),
    )
    endBurst()
    made.push('undo')
    vi.advanceTimersByTime(1000)
    expect(made).toEqual(['opacity', 'undo'])
  })
})
