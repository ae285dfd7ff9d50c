import { expect, it } from 'vitest'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { skySteps } from '@/document/newSky'
import { parseStep } from '@/core/formats/recipe'
import { greyPicture } from '../../tests/setups/greyPicture'
import { picture } from '../../tests/setups/match'
import { measurePhoto, whyNoNewSky } from './newSky'

/** Bright above, dark below, with a soft ramp between that only a solved edge would follow. */
const photo = greyPicture(240, 160, (_, y) => (y < 76 ? 215 : y > 84 ? 60 : 215 - (y - 75) * 15))

it('a photo is measured before the edge of its sky is solved', () => {
  const steps = skySteps(photo, () => 'a step'),
    kinds: string[] = [],
    context = { ...plainContext(), stepDone: (_: number, kind: string) => void kinds.push(kind) }
  const measured = measurePhoto(sceneOf(photo), steps, context)
  expect(steps.map(({ kind }) => kind)).toEqual(['sky', 'edge'])
  expect(kinds).toEqual(['sky'])
  expect(measured.measures.horizon?.y).toBeGreaterThan(70)
  expect(measured.measures.horizon?.y).toBeLessThan(90)
  expect(whyNoNewSky(measured)).toBeUndefined()
})

/** A plain of squares under a blue sky, its horizon behind a hedge that ends some px above it. */
const hedged = (horizon: number, hidden: number) =>
  picture(
    (x, y) => {
      const leaf = 8 * (Math.sin(1.7 * x + 0.9 * y) + Math.sin(0.6 * x - 1.3 * y)),
        far = 900 / (y - horizon + 1)
      if (y < horizon - hidden * (0.75 + 0.25 * Math.sin(x / 14) + 0.15 * Math.sin(x / 5)))
        return [120 + (70 * y) / horizon, 155 + (50 * y) / horizon, 200 + (20 * y) / horizon]
      if (y < horizon + 6) return [48 + leaf, 70 + leaf, 40 + leaf]
      return (Math.floor(far / 3) + Math.floor(((x - 180) * far) / 270)) & 1 ? [120, 130, 70] : [98, 110, 60]
    },
    360,
    240,
  )

it('a horizon behind a hedge is told from the plain before it, nearer than from the skyline alone', () => {
  for (const horizon of [90, 120, 150, 180]) {
    const off = (network: boolean) =>
      Math.abs(
        measurePhoto(sceneOf(hedged(horizon, 45)), [parseStep({ kind: 'sky' })], { ...plainContext(), network })
          .measures.horizon!.y - horizon,
      )
    expect(off(true), `${horizon}`).toBeLessThan(6)
    expect(off(false), `${horizon}`).toBeGreaterThan(9)
  }
})
