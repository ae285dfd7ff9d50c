/**
 * What is decided turn by turn: strokes of the first turn decide together, those of a later turn correct what was there before. A turn that keeps only adds,
 * one that drops only takes away; and far from where the level that is thought on changed, nothing changes at full size. Each turn's answer is remembered,
 * so that the next one has one more to find.
 * Sources: Xu, Price, Cohen, Yang and Huang, CVPR 2016 (clicks that correct); Liu, Sun and Shum, SIGGRAPH 2009 (a stroke never loses what there was).
 */
import { type Memory } from '../cache/lruCache'
import { type Mark } from '../fields/marks'
import { nearAny } from '../raster/nearAny'
import { carryChange } from './carryChange'
import { UNDECIDED } from './gridCut'
import { cutOf, refine, type SmallAnswer } from './objectCut'
import { type Looking } from './outlineLook'
import { packed, type PackedState, unpacked } from './packedState'
import { coveredBy } from './strokes'
import { type SegmentView } from './view'

/** A turn, and all before it. */
export interface Turn {
  /** Tells what is decided with it from everything else. */
  readonly key: string
  /** The only side it may change what is not marked to; absent: either. */
  readonly may?: number
  /** What is marked in it. */
  readonly marked: readonly Mark[]
  /** What is given with it at a level of the view, or of a part of it: UNDECIDED, INSIDE or OUTSIDE. */
  given(part: SegmentView, level: number): Uint8Array
  /** Decides everything on the level that is thought on. @param before what there was @returns undefined where nothing can be told */
  decide(before: SmallAnswer | undefined, work: Work): SmallAnswer | undefined
}

export interface Work extends Looking {
  readonly memory: Memory
  /** False: without the network. */ readonly network?: boolean
  /** A quick answer, on the level that is thought on. */ readonly draft?: boolean
}

/** What turns come to. */
interface Answer {
  readonly small: SmallAnswer
  /** At full size; a draft has none. */
  readonly full?: PackedState
}

/** @returns INSIDE and OUTSIDE: of the small level for a draft, else at full size; null where nothing can be told */
export function decideInTurn(turns: readonly Turn[], view: SegmentView, work: Work): Uint8Array | null {
  const keyOf = ({ key }: Turn) => `${key} ${work.draft} ${work.network} ${work.rough}`
  let now: Answer | undefined,
    n = turns.length
  while (n > 0 && !(now = work.memory.get<Answer>(keyOf(turns[n - 1])))) n--
  for (; n < turns.length; n++) {
    const made = answered(turns[n], now, view, { ...work, check: (p) => work.check((n + p) / turns.length) })
    if (!made) continue
    now = made
    const key = keyOf(turns[n])
    work.memory.set(key, now, 3 * now.small.state.length + 2 * key.length + (now.full?.bits.length ?? 0))
  }
  return now ? (now.full ? unpacked(now.full) : now.small.state) : null
}

function answered(turn: Turn, before: Answer | undefined, view: SegmentView, work: Work): Answer | undefined {
  const decided = turn.decide(before?.small, { ...work, check: (p) => work.check(0.6 * p) })
  if (!decided) return undefined
  const small = before ? corrected(before.small, decided, turn, view) : decided
  if (work.draft) return { small }
  const carrying = (p: number) => work.check(0.6 + 0.4 * p),
    full = before?.full
      ? carryChange(
          {
            small,
            near: changedNear(small.state, before.small.state, turn, view),
            there: unpacked(before.full),
            may: turn.may,
            givenIn: (part, level) => turn.given(part, level),
          },
          view,
          carrying,
        )
      : refine(small.state, { ...small, levels: view.levels, givenAt: (level) => turn.given(view, level) }, carrying)
  return { small, full: packed(full) }
}

/** What was decided, as far as a turn may change what there was. */
function corrected(before: SmallAnswer, decided: SmallAnswer, turn: Turn, view: SegmentView): SmallAnswer {
  if (turn.may === undefined) return decided
  const given = turn.given(view, view.levels.length - 1),
    asItMay = (now: Uint8Array, was: Uint8Array) =>
      now.map((side, i) => (given[i] === UNDECIDED && side !== turn.may ? was[i] : side)),
    state = asItMay(decided.state, before.state)
  return {
    ...decided,
    state,
    cut: decided.cut && asItMay(decided.cut, cutOf(before)),
    sure: decided.sure?.map((one, i) => (state[i] === decided.state[i] ? one : 0)),
  }
}

/** How far around what changed on the small level it is decided anew at full size, px of that level. */
const AROUND = 4

/** 1 near where a turn changed the small level, or was marked. */
function changedNear(after: Uint8Array, before: Uint8Array, { marked }: Turn, view: SegmentView): Uint8Array {
  const { width, height } = view.levels.at(-1)!,
    covered = coveredBy(marked, view),
    changed = after.map((side, i) => (side !== before[i] || covered[i] ? 1 : 0))
  return nearAny(changed, (one) => one === 1, width, height, AROUND)
}
