import { describe, expect, it } from 'vitest'
import { parseBatchPlan } from '@/document/batchPlan'
import { plainContext } from '@/core/select/onePicture'
import { type Picture } from '@/core/raster/picture'
import { batchPicture } from './batchPicture'

/** Red on the left, blue on the right. */
const WIDTH = 200,
  HEIGHT = 120
const photo: Picture = (() => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4).fill(255)
  for (let i = 0; i < WIDTH * HEIGHT; i++) data.set(i % WIDTH < 80 ? [200, 20, 20] : [20, 20, 200], i * 4)
  return { width: WIDTH, height: HEIGHT, data }
})()
const run = (steps: readonly object[], output: object = {}, canvas?: object) =>
  batchPicture(photo, parseBatchPlan({ version: 1, steps, output, ...(canvas ? { canvas } : {}) }), {}, plainContext())
const pick = { kind: 'similarColour', at: [10, 10], tolerance: 40 }

describe('one picture of a batch', () => {
  it('is cut out by the steps, to what shows, and reduced', async () => {
    const { picture, selected, doubt } = await run([pick], { trim: true, longest: 60 })
    expect(selected).toBeCloseTo(0.4, 2)
    expect(doubt).toBeLessThan(0.02)
    expect([picture.width, picture.height]).toEqual([40, 60])
    expect([...picture.data.slice(0, 4)]).toEqual([200, 20, 20, 255])
  })
  it('steps made on another canvas are scaled to it', async () => {
    const { selected } = await run(
      [{ kind: 'rectangle', x: 0, y: 0, width: 500, height: 300 }],
      {},
      { width: 1000, height: 600 },
    )
    expect(selected).toBeCloseTo(0.25, 3)
  })
  it('a matte goes out grey', async () => {
    const { picture } = await run([pick], { what: 'matte' })
    expect([...picture.data.slice(0, 4)]).toEqual([255, 255, 255, 255])
    expect([...picture.data.slice(-4)]).toEqual([0, 0, 0, 255])
  })
  it('nothing selected is no doubt; what hangs on a single pixel is', async () => {
    expect((await run([])).doubt).toBe(0)
    // A line of one pixel that joins two fields of one colour vanishes on the smaller picture.
    const joined = { ...photo, data: photo.data.slice() }
    for (let x = 80; x < 140; x++) joined.data.set([200, 20, 20], (60 * WIDTH + x) * 4)
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 140; x < WIDTH; x++) joined.data.set([200, 20, 20], (y * WIDTH + x) * 4)
    const { doubt } = await batchPicture(
      joined,
      parseBatchPlan({ version: 1, steps: [{ ...pick, at: [40, 60], tolerance: 20 }] }),
      {},
      plainContext(),
    )
    expect(doubt).toBeGreaterThan(0.3)
  })
})
