/** The finders by object on the small set of pictures with a known answer: no worse than they are known to do (quality/figures.json, made by `npm run quality -- --figures`). */
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { isScene, readScene } from '../../quality/scene'
import { TASKS } from '../../quality/tasks'

type Figures = Record<string, { mean: number; worst: number }>

const folder = join(process.cwd(), 'quality/scenes'),
  figures = JSON.parse(readFileSync(join(process.cwd(), 'quality/figures.json'), 'utf8')) as Figures,
  names = readdirSync(folder).filter((name) => isScene(join(folder, name)))
/** Means may lie so far from what is known, and the worst picture so far below: other machines round other ways. */
const MEAN = 0.01,
  WORST = 0.03

// Regions take as long as all others together, and are left to `npm run quality`.
describe('finders by object on pictures with a known answer', () => {
  it.each(['roughBox', 'marks', 'subjectOfThree', 'liveWire', 'trimap'])(
    '%s',
    async (task) => {
      const { rising, run } = TASKS[task],
        values: number[] = []
      for (const name of names) {
        const answer = run(await readScene(join(folder, name)))
        if (answer) values.push(answer.value)
      }
      const mean = values.reduce((sum, v) => sum + v, 0) / values.length,
        worst = rising ? Math.min(...values) : Math.max(...values),
        known = figures[task],
        [sign, scale] = rising ? [1, 1] : [-1, Math.max(1, known.mean * 10)]
      expect(sign * mean).toBeGreaterThan(sign * known.mean - MEAN * scale)
      expect(sign * worst).toBeGreaterThan(sign * known.worst - WORST * scale)
    },
    300_000,
  )
})
