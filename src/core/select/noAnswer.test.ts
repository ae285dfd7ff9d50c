import { describe, expect, it } from 'vitest'
import { type Picture } from '../raster/picture'
import { type Step } from '../steps/registry'
import { paint, truth, thing, uniform, noise, run, found, dots, loose } from '../../../tests/setups/thing'

describe('without an answer they say so, and select nothing', () => {
  const dot = dots([180, 120])
  it.each<[string, Picture, object, RegExp]>([
    ['a box outside the picture', thing, { kind: 'roughBox', box: [900, 900, 1000, 1000] }, /lies outside/],
    ['a box of one pixel', thing, { kind: 'roughBox', box: [100, 100, 101, 101] }, /smaller than two pixels/],
    ['a box with nothing in it', uniform, { kind: 'roughBox', box: [80, 30, 290, 215] }, /stands out/],
    ['no box at all', thing, { kind: 'roughBox' }, /fewer than three points/],
    ['no marks', thing, { kind: 'marks' }, /nothing is marked/],
    ['marks outside the picture', thing, { kind: 'marks', keep: dots([900, 900]) }, /lie outside/],
    ['no stroke', thing, { kind: 'spread', strokes: [] }, /nothing is brushed/],
    [
      'only drop strokes',
      thing,
      { kind: 'spread', strokes: [{ points: [[5, 5]], size: 9, mode: 'drop' }] },
      /nothing is brushed/,
    ],
    ['a subject in a uniform picture', uniform, { kind: 'subject' }, /nothing stands out/],
    [
      'sky in a picture without',
      paint((x, y) => [90 + 40 * Math.sin(x * 1.9), 70 + 40 * Math.sin(y * 2.3 + x), 30], 30),
      { kind: 'sky' },
      /Nothing found/,
    ],
    ['regions outside the picture', thing, { kind: 'regions', at: [[-5, 10]] }, /outside/],
    ['no region', thing, { kind: 'regions', at: [] }, /no region is picked/],
    [
      'a band with two points',
      thing,
      {
        kind: 'edgeBand',
        points: [
          [10, 10],
          [50, 50],
        ],
      },
      /fewer than three/,
    ],
    [
      'a band wider than the outline',
      thing,
      {
        kind: 'edgeBand',
        points: [
          [100, 100],
          [110, 100],
          [105, 110],
        ],
        width: 60,
      },
      /narrower/,
    ],
    ['one anchor', thing, { kind: 'liveWire', anchors: [[50, 50]] }, /at least two/],
    [
      'anchors outside',
      thing,
      {
        kind: 'liveWire',
        anchors: [
          [900, 50],
          [950, 60],
        ],
      },
      /outside/,
    ],
  ])('%s', (_, picture, step, says) => {
    const { matte, note } = run(picture, step)
    expect(note).toMatch(says)
    expect(found(matte)).toBe(0)
  })

  it.each([
    ['noise', noise],
    ['a uniform picture', uniform],
  ] as const)('in %s nothing fails, and never everything is selected', (_, picture) => {
    const steps: object[] = [
      { kind: 'roughBox', box: [80, 30, 290, 215] },
      { kind: 'marks', keep: dot, drop: dots([10, 10]) },
      { kind: 'spread', strokes: [{ points: [[100, 100]], size: 20, mode: 'keep' }] },
      { kind: 'subject' },
      { kind: 'sky' },
      { kind: 'edgeBand', points: loose },
      {
        kind: 'liveWire',
        anchors: [
          [60, 60],
          [200, 60],
          [120, 180],
        ],
      },
    ]
    for (const step of steps)
      if ((step as Step).kind !== 'spread' || picture === noise)
        expect(found(run(picture, step).matte), JSON.stringify(step)).toBeLessThan(0.99)
  })

  it('keep and drop marks in one place are a contradiction, told', () => {
    expect(run(thing, { kind: 'marks', keep: dots([180, 120]), drop: dots([180, 120], [20, 20]) }).note).toMatch(
      /over each other/,
    )
  })

  it('a transparent surround is never selected', () => {
    const cut: Picture = { ...thing, data: thing.data.slice() }
    for (let i = 0; i < truth.data.length; i++) if (truth.data[i] === 0) cut.data[i * 4 + 3] = 0
    for (const step of [
      { kind: 'roughBox', box: [80, 30, 290, 215] },
      { kind: 'subject' },
      { kind: 'spread', strokes: [{ points: [[180, 120]], size: 20, mode: 'keep' }] },
    ]) {
      const { matte } = run(cut, step)
      expect(truth.data.every((v, i) => v > 0 || matte.data[i] < 128)).toBe(true)
    }
  })
})
