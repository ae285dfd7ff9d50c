/**
 * Corrective clicks: an editor who clicks in the middle of the largest mistake until the answer is good enough.
 * Source: Xu, Price, Cohen, Yang and Huang, "Deep interactive object selection", CVPR 2016 (the protocol: up to 20 clicks, each in the middle of the
 * largest error region, and the mean number of clicks to reach an overlap).
 */
import { type Matte } from '@/core/raster/picture'
import { piecesOf } from '@/core/segment/pieces'
import { overlap } from '@/core/matting/errors'
import { distanceTo } from './measures'
import { type TruthScene } from './scene'
import { type Answer, press } from './tasks'

const MOST = 20,
  GOOD = 0.9,
  FAIR = 0.85
/** A click has made the answer worse when it loses more than this. */
const WORSE = 0.005

/** @returns the clicks to 90 % and to 85 % (20 where it is never reached), and the share of clicks after which the answer was worse; with steps before, the first answer is what those say */
export function correctiveClicks(
  scene: TruthScene,
  answer: (steps: readonly object[]) => Matte,
  before: readonly object[],
): Answer {
  const keep: object[] = [],
    drop: object[] = [],
    overlaps: number[] = []
  let now = before.length ? answer(before) : null
  if (now) overlaps.push(overlap(now, scene.truth))
  for (let n = 0; n < MOST && (overlaps.at(-1) ?? 0) < GOOD; n++) {
    const at = worstPlace(now, scene.truth)
    if (!at) break
    ;(at.inside ? keep : drop).push({ ...press([at.place])[0], turn: before.length ? n + 1 : n })
    const marks = { kind: 'marks', keep, drop, unsure: [] }
    now = answer(before.length ? [{ ...marks, outline: boxOutline(scene) }] : [marks])
    overlaps.push(overlap(now, scene.truth))
  }
  const clicks = (enough: number) => {
    const n = overlaps.findIndex((value) => value >= enough)
    return n < 0 ? MOST : before.length ? n : n + 1
  }
  const after = overlaps.slice(1),
    worse = after.filter((value, k) => value < overlaps[k] - WORSE)
  const what = before.length ? 'after a box' : 'marks'
  return {
    value: clicks(GOOD),
    also: {
      [`clicks to 85 %, ${what}`]: clicks(FAIR),
      ...(after.length ? { [`a click makes it worse, ${what}`]: worse.length / after.length } : {}),
    },
  }
}

const boxOutline = ({ hints: { roughBox: [x0, y0, x1, y1] } }: TruthScene) => [[x0, y0], [x1, y0], [x1, y1], [x0, y1]] // prettier-ignore

/** The middle of the largest connected mistake: the pixel of it that lies farthest from its edge and the picture's. */
function worstPlace(now: Matte | null, truth: Matte): { place: [number, number]; inside: boolean } | null {
  const { width, height } = truth,
    wrong = new Uint8Array(width * height)
  for (let i = 0; i < wrong.length; i++) {
    const inside = truth.data[i] > 127
    if (inside !== (now ? now.data[i] > 127 : false)) wrong[i] = inside ? 1 : 2
  }
  let best: { area: number; piece: number; side: number; pieceOf: Int32Array } = {
    area: 0,
    piece: -1,
    side: 0,
    pieceOf: new Int32Array(0),
  }
  for (const side of [1, 2]) {
    const { pieceOf, areas } = piecesOf(wrong, truth, side)
    areas.forEach((area, piece) => {
      if (area > best.area) best = { area, piece, side, pieceOf }
    })
  }
  if (best.piece < 0) return null
  const away = new Uint8Array(wrong.length)
  for (let i = 0; i < away.length; i++) away[i] = best.pieceOf[i] === best.piece ? 0 : 1
  const distance = distanceTo(away, truth)
  let at = -1,
    most = -1
  for (let i = 0; i < away.length; i++) {
    if (away[i]) continue
    const x = i % width,
      y = (i / width) | 0,
      depth = Math.min(distance[i], x + 1, y + 1, width - x, height - y)
    if (depth > most) {
      most = depth
      at = i
    }
  }
  return { place: [at % width, Math.floor(at / width)], inside: best.side === 1 }
}
