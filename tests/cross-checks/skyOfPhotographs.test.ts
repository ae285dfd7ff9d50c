/** Sky on photographs that the network was not trained on (tests/photographs): dark clouds, a night, a room. Without it each of them fails. */
import sharp from 'sharp'
import { expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'

const WIDTH = 720,
  HEIGHT = 360

it.each([
  ['city5', 'a dark cloud over a bright evening'],
  ['desert2', 'a night'],
  ['valley7', 'a dark cloud in a pale sky'],
  ['station3', 'a room'],
])('nine tenths of the sky and of the rest are right: %s, %s', async (name) => {
  const raw = (file: string) => sharp(`tests/photographs/${name}.${file}`),
    photo = await raw('jpg').ensureAlpha().raw().toBuffer(),
    truth = await raw('png').extractChannel(0).raw().toBuffer(),
    scene = sceneOf({ width: WIDTH, height: HEIGHT, data: new Uint8ClampedArray(photo) }),
    find = (network: boolean) => foldSteps([parseStep({ kind: 'sky' })], scene, { ...plainContext(), network }).data
  const right = (found: Uint8Array, sky: boolean): number => {
    let all = 0,
      of = 0
    truth.forEach((v, i) => {
      if (v >= 128 !== sky) return
      all++
      if (found[i] >= 128 === sky) of++
    })
    return all ? of / all : 1
  }
  const least = (network: boolean): number => {
    const found = find(network)
    return Math.min(right(found, true), right(found, false))
  }
  expect(least(true)).toBeGreaterThan(0.9)
  expect(least(false)).toBeLessThan(0.85)
})
