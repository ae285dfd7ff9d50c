/** Subject on the demo's puppet, ray-traced with its coverage: what is found does not hang on the picture's size. */
import sharp from 'sharp'
import { expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { overlap } from '@/core/matting/errors'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import '@/core/network/withWeights'

// The network alone loses an arm here; what stands out by contrast, or the thing that all but fills the picture, has both.
it.each([900, 600])('the whole puppet is found, %i px wide', async (width) => {
  const height = (width * 2) / 3,
    raw = (file: string) => sharp(file).resize(width, height, { fit: 'fill' })
  const photo = await raw('demo/pictures/otter-puppet.jpg').ensureAlpha().raw().toBuffer(),
    truth = await raw('tests/fixtures/otter-puppet-matte.png').extractChannel(0).raw().toBuffer(),
    scene = sceneOf({ width, height, data: new Uint8ClampedArray(photo) })
  const found = foldSteps([parseStep({ kind: 'subject' })], scene, plainContext())
  expect(overlap(found, { width, height, data: new Uint8Array(truth) })).toBeGreaterThan(0.93)
})
