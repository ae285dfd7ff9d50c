/** What of a cut belongs to one object. */
import { type Size } from '../raster/picture'
import { INSIDE, OUTSIDE } from './gridCut'
import { nearAny } from '../raster/nearAny'
import { type Pieces, piecesOf } from './pieces'

/**
 * Pieces of at least LARGE of the largest one's area belong to the object. Others must lie NEAR it (share of the frame's diagonal) and,
 * unless they are SMALL, their colours must speak for it by so many nats. Bridges of up to twice BRIDGE px do not join pieces at first.
 */
const BRIDGE = 2,
  LARGE = 0.3,
  NEAR = 0.012,
  SMALL = 0.01,
  SPEAKS = 1

/** The object is one thing: its largest piece, at first alone, so that its colours are learnt; then what belongs to it besides. Works in place. @param evidence nats in favour of inside */
export function keepObject(state: Uint8Array, evidence: (pixel: number) => number, first: boolean, size: Size): void {
  if (first) {
    keepCore(state, size.width, size.height)
    return
  }
  const pieces = piecesOf(state, size, INSIDE),
    most = Math.max(...pieces.areas)
  keepPieces(
    state,
    pieces,
    pieces.areas.map((area) => area >= LARGE * most),
    evidence,
    size,
  )
}

/** Pieces that hold a place given as inside, and what belongs to them besides: at first only what is small. Works in place. */
export function keepGiven(
  state: Uint8Array,
  evidence: (pixel: number) => number,
  first: boolean,
  given: Uint8Array,
  size: Size,
): void {
  const pieces = piecesOf(state, size, INSIDE),
    kept = pieces.areas.map(() => false)
  for (let i = 0; i < state.length; i++)
    if (given[i] === INSIDE && pieces.pieceOf[i] >= 0) kept[pieces.pieceOf[i]] = true
  if (kept.includes(true)) keepPieces(state, pieces, kept, first ? () => -1 : evidence, size)
}

function keepPieces(
  state: Uint8Array,
  { pieceOf, areas }: Pieces,
  kept: boolean[],
  evidence: (pixel: number) => number,
  { width, height }: Size,
): void {
  if (!kept.includes(false)) return
  const most = Math.max(...areas.filter((_, piece) => kept[piece]))
  const speaks = new Float64Array(areas.length),
    near = new Uint8Array(areas.length),
    reach = Math.ceil(NEAR * Math.hypot(width, height))
  const close = nearAny(pieceOf, (piece) => kept[piece], width, height, reach)
  for (let i = 0; i < pieceOf.length; i++)
    if (pieceOf[i] >= 0) {
      speaks[pieceOf[i]] += evidence(i)
      if (close[i]) near[pieceOf[i]] = 1
    }
  const belongs = areas.map(
    (area, piece) => kept[piece] || (near[piece] && (area <= SMALL * most || speaks[piece] > SPEAKS * area)),
  )
  for (let i = 0; i < state.length; i++) if (pieceOf[i] >= 0 && !belongs[pieceOf[i]]) state[i] = OUTSIDE
}

/** The largest piece after thin bridges are cut, and what lies close around it. */
function keepCore(state: Uint8Array, width: number, height: number): void {
  const away = nearAny(state, (side) => side !== INSIDE, width, height, BRIDGE),
    thick = state.map((side, i) => (side === INSIDE && !away[i] ? INSIDE : OUTSIDE))
  const { pieceOf, areas } = piecesOf(thick, { width, height }, INSIDE)
  if (!areas.length) return
  const core = areas.indexOf(Math.max(...areas)),
    near = nearAny(pieceOf, (piece) => piece === core, width, height, BRIDGE + 1)
  for (let i = 0; i < state.length; i++) if (state[i] === INSIDE && !near[i]) state[i] = OUTSIDE
}
