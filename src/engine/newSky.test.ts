import { expect, it } from 'vitest'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { skySteps } from '@/document/newSky'
import { greyPicture } from '../../tests/setups/greyPicture'
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
