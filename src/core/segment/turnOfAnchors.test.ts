import { describe, expect, it } from 'vitest'
import { type Colour, disc, HEIGHT, mixed, paint, truth, WIDTH } from '../../../tests/setups/thing'
import { overlap } from '../matting/errors'
import { type Picture } from '../raster/picture'
import { plainContext, sceneOf } from '../select/onePicture'
import { type Point } from '../vector/fill'
import { turnOfAnchors } from './turnOfAnchors'
import { INSIDE } from './gridCut'
import { decideInTurn } from './inTurn'
import { turnsOfMarks } from './marksInTurn'
import { boxAround } from './objectOfAnchors'
import { segmentView } from './view'

const anchors = disc.filter((_, k) => k % 9 === 0)

/** What lies within anchors, and within the box around them, of all the picture. */
function found(picture: Picture, places: readonly Point[] = anchors, by: 'anchors' | 'box' = 'anchors') {
  const context = { ...plainContext(), rough: true },
    view = segmentView(sceneOf(picture), 'all', context),
    marks = { outline: boxAround(places), keep: [], drop: [] },
    turns =
      by === 'anchors'
        ? [turnOfAnchors({ anchors: places, ...marks }, view, by)]
        : turnsOfMarks({ ...marks, unsure: [], solver: 'auto' }, view, by),
    state = decideInTurn(turns, view, context)!
  return { width: WIDTH, height: HEIGHT, data: state.map((side) => (side === INSIDE ? 255 : 0)) }
}

describe('the thing on whose outline anchors lie', () => {
  const wall = (x: number): Colour => [120 + x / 12, 130, 150]
  it('has parts that look like what lies behind it', () => {
    const { data } = mixed([190, 90, 50], wall),
      lower = (i: number) => truth.data[i] >= 128 && Math.floor(i / WIDTH) > 125
    for (let i = 0; i < truth.data.length; i++) if (lower(i)) data.set([136 + (i % WIDTH) / 12, 146, 160], 4 * i)
    expect(overlap(found({ width: WIDTH, height: HEIGHT, data }), truth)).toBeGreaterThan(0.97)
  })
  it('is the one of two that touch', () => {
    const picture = paint((x, y) =>
      truth.data[y * WIDTH + x] >= 128 || Math.hypot(x - 300, y - 110) < 58 ? [190, 90, 50] : wall(x),
    )
    expect(overlap(found(picture), truth)).toBeGreaterThan(0.97)
  })
  it('may be all that a drawn line encloses, which nothing but the line tells from what lies around', () => {
    const away = (x: number, y: number) => Math.hypot(x - 180, y - 120),
      tiles = (x: number, y: number): Colour =>
        (Math.floor(x / 20) + Math.floor(y / 20)) % 2 ? [225, 215, 190] : [150, 160, 190],
      picture = paint((x, y) => (Math.abs(away(x, y) - 62) < 1.5 ? [40, 40, 40] : tiles(x, y))),
      within = {
        ...truth,
        data: truth.data.map((_, i) => (away((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5) < 62 ? 255 : 0)),
      },
      round = Array.from({ length: 10 }, (_, k): Point => [
        180 + 62 * Math.cos(k * 0.628),
        120 + 62 * Math.sin(k * 0.628),
      ])
    expect(overlap(found(picture, round), within)).toBeGreaterThan(0.85)
    expect(overlap(found(picture, round, 'box'), within)).toBeLessThan(0.5)
  })
  it('is nothing where there is no outline', () => {
    expect(found(paint(wall)).data.some((side) => side > 0)).toBe(false)
  })
})
