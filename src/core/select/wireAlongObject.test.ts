import { describe, expect, it } from 'vitest'
import { HEIGHT, paint, run, thing, truth, disc, WIDTH } from '../../../tests/setups/thing'
import { parseStep } from '../formats/recipe'
import { overlap } from '../matting/errors'
import { fillPolygons, type Point } from '../vector/fill'
import { liveWire, outlinePieces, wirePieces } from './liveWire'
import { plainContext, sceneOf } from './onePicture'

/** A round thing with a slit that reaches over its middle: from lip to lip the wire sees no edge. */
const SLIT = 30,
  round: readonly Point[] = Array.from({ length: 90 }, (_, k) => {
    const a = ((k + 0.5) / 90) * 2 * Math.PI
    return [180 + 80 * Math.cos(a), 120 + 80 * Math.sin(a)] as const
  }),
  lipY = [120 + SLIT / 2, 120 - SLIT / 2],
  lipX = 180 + Math.sqrt(80 ** 2 - (SLIT / 2) ** 2)
const slit: readonly Point[] = [
  ...round.filter(([x, y]) => x < 180 || Math.abs(y - 120) > SLIT / 2),
  [lipX, lipY[1]],
  [150, lipY[1]],
  [150, lipY[0]],
  [lipX, lipY[0]],
]
// The filter leaves them in the order of their angle, from below the slit around to above it.
const slitTruth = fillPolygons({ width: WIDTH, height: HEIGHT }, [slit], 'evenodd')
const picture = paint((x, y) => {
  const t = slitTruth.data[y * WIDTH + x] / 255
  return [
    ...[0, 1, 2].map((c) => [130 + x / 12, 140 + y / 16, 150][c] * (1 - t) + [190, 90, 50][c] * t),
  ] as unknown as readonly [number, number, number]
})
const anchors: readonly Point[] = [
  [lipX, lipY[0]],
  ...[0.16, 0.33, 0.5, 0.67, 0.84].map((turn): Point => [
    180 + 80 * Math.cos(turn * 2 * Math.PI),
    120 + 80 * Math.sin(turn * 2 * Math.PI),
  ]),
  [lipX, lipY[1]],
]
const wire = { kind: 'liveWire', anchors, reach: 24 }

describe('a live wire along the object its anchors lie on', () => {
  it('goes into a slit that lies beyond its reach; alone it goes across', () => {
    expect(overlap(run(picture, wire).matte, slitTruth)).toBeGreaterThan(0.98)
    expect(overlap(run(picture, { ...wire, followObject: false }).matte, slitTruth)).toBeLessThan(0.9)
  })
  it('does so without the network, and the other way round', () => {
    expect(overlap(run(picture, wire, false).matte, slitTruth)).toBeGreaterThan(0.97)
    expect(overlap(run(picture, { ...wire, anchors: anchors.toReversed() }).matte, slitTruth)).toBeGreaterThan(0.98)
  })
  it('stays the wire where the object goes on beyond the box around the anchors: only a part of it is outlined', () => {
    const tall = paint((x, y) =>
        x >= 140 && x < 220 && y >= 20 && y < 230 ? [190, 90, 50] : [130 + x / 12, 140, 150],
      ),
      half: readonly Point[] = [
        [140, 110],
        [140, 20],
        [220, 20],
        [220, 110],
      ],
      scene = sceneOf(tall),
      step = parseStep({ kind: 'liveWire', anchors: half, reach: 24 }) as never,
      context = plainContext(),
      along = outlinePieces(scene, step, context),
      alone = wirePieces(scene, step, true, context)
    expect(along.map((piece, k) => piece !== alone[k])).toEqual([true, true, true, false])
  })
  it('is the wire alone where its anchors lie on no object’s outline', () => {
    const inner = disc
        .filter((_, k) => k % 10 === 0)
        .map(([x, y]): Point => [180 + (x - 180) / 2, 120 + (y - 120) / 2]),
      step = { kind: 'liveWire', anchors: inner, reach: 16 }
    expect(run(thing, step).matte.data).toEqual(run(thing, { ...step, followObject: false }).matte.data)
  })
  it('passes through every anchor, in pieces from each to the next', () => {
    const scene = sceneOf(thing),
      step = parseStep({ kind: 'liveWire', anchors: disc.filter((_, k) => k % 15 === 0), reach: 24 }) as never,
      pieces = outlinePieces(scene, step, plainContext())
    pieces.forEach((piece, k) => {
      const ends = [disc[k * 15], disc[((k + 1) % 6) * 15]]
      for (const [end, at] of [
        [ends[0], piece[0]],
        [ends[1], piece.at(-1)!],
      ] as const)
        expect(Math.hypot(end[0] - at[0], end[1] - at[1])).toBeLessThan(1)
    })
  })
  it('while something moves it takes the object as it is known, and the wire where it is not', () => {
    const scene = sceneOf(picture),
      context = plainContext(),
      step = parseStep(wire) as never,
      moving = { ...context, draft: true },
      alone = wirePieces(scene, step, true, context)
    expect(outlinePieces(scene, step, moving)).toEqual(alone)
    const found = outlinePieces(scene, step, context)
    expect(found).not.toEqual(alone)
    expect(outlinePieces(scene, step, moving)).toEqual(found)
    expect(liveWire.drafts).toBe(true)
  })
  it('a thing all of whose outline the wire finds by itself stays as good', () => {
    const step = { kind: 'liveWire', anchors: disc.filter((_, k) => k % 10 === 0), reach: 16 }
    expect(overlap(run(thing, step).matte, truth)).toBeGreaterThan(0.98)
  })
})
