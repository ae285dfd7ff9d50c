import { expect, it } from 'vitest'
import { type DecodedPicture } from '@/core/compose/nodes'
import { picturePyramid } from '@/core/raster/levels'
import { projectOf } from '@/document/edits'
import { perform, EMPTY_HISTORY } from '@/document/history'
import { addPicture } from '@/document/layers'
import { sceneOfProject } from '@/document/tree'
import { Studio } from './studio'

const ASSET = 'a'.repeat(64)
const SIZE = { width: 900, height: 700 }
const photo: DecodedPicture = {
  levels: picturePyramid(
    { ...SIZE, data: Uint8ClampedArray.from({ length: SIZE.width * SIZE.height * 4 }, (_, i) => (i * 7) % 256) },
    false,
  ),
  opaque: false,
}
const first = projectOf('Two', { asset: ASSET, ...SIZE, name: 'One' }, 'one'),
  two = perform(
    first,
    EMPTY_HISTORY,
    'add',
    addPicture({ asset: ASSET, ...SIZE, name: 'Two' }, 'two', null),
    'act',
    '2026-01-01T00:00:00Z',
  )!.project

it('a composition that steps look at tells how far it is, is called off, and leaves nothing half made', () => {
  const studio = new Studio(() => photo, 1 << 26),
    told: number[] = [],
    stop = new Error('Called off')
  const scene = studio.scene(sceneOfProject(two), (progress) => {
    told.push(progress)
    if (told.length > 3) throw stop
  })
  expect(() => scene.picture('all')).toThrow(stop)
  expect(told.length).toBe(4)
  expect(told.every((v, i) => v < 1 && (i === 0 || v > told[i - 1]))).toBe(true)
  const whole = new Studio(() => photo, 1 << 26).scene(sceneOfProject(two)).picture('all')
  expect(
    Buffer.compare(Buffer.from(studio.scene(sceneOfProject(two)).picture('all').data), Buffer.from(whole.data)),
  ).toBe(0)
})
