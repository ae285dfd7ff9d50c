import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AT_MOST, LONG_MS, nextToBegin, type Queued } from './queue'

describe('the queue of exports', () => {
  it('one project’s row of exports leaves room for another’s', () => {
    const jobs: Queued[] = [{ project: 'a', started: 0 }, { project: 'a' }, { project: 'a' }, { project: 'b' }]
    expect(nextToBegin(jobs, 1)).toBe(jobs[3])
  })
  it('those that came first begin first, and never two of one project', () => {
    const jobs: Queued[] = [{ project: 'a' }, { project: 'a' }, { project: 'b' }]
    expect(nextToBegin(jobs, 0)).toBe(jobs[0])
    expect(nextToBegin([{ ...jobs[0], started: 0 }, ...jobs.slice(1)], 1)).toBe(jobs[2])
  })
  it('when two run long, a third project begins, and no fourth', () => {
    const two: Queued[] = [
      { project: 'a', started: 0 },
      { project: 'b', started: 0 },
      { project: 'c' },
      { project: 'd' },
    ]
    expect(nextToBegin(two, LONG_MS)).toBeUndefined()
    expect(nextToBegin(two, LONG_MS + 1)).toBe(two[2])
    expect(nextToBegin([...two.slice(0, 2), { project: 'c', started: LONG_MS }, two[3]], 9 * LONG_MS)).toBeUndefined()
  })
  it('a short export never waits for more than the long ones’ time, whatever others ask for', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ project: fc.constantFrom('a', 'b'), takes: fc.integer({ min: 1, max: 10 * LONG_MS }) }), {
          maxLength: 30,
        }),
        (others) => {
          const jobs: (Queued & { takes: number; started?: number })[] = [...others, { project: 'mine', takes: 1 }]
          let left = jobs
          const served = new Map<string, number>()
          for (let now = 0; left.some((job) => job.project === 'mine'); now += 100) {
            left = left.filter((job) => job.started === undefined || now - job.started < job.takes)
            for (let next = nextToBegin(left, now, served); next; next = nextToBegin(left, now, served)) {
              next.started = now
              served.set(next.project, now)
            }
            expect(left.filter((job) => job.started !== undefined).length).toBeLessThanOrEqual(AT_MOST)
            if (jobs.at(-1)!.started === undefined) expect(now).toBeLessThanOrEqual(2 * LONG_MS + 200)
          }
        },
      ),
      { numRuns: 60 },
    )
  })
})
