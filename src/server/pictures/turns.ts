/** Decoding takes memory by the hundred megabytes: few pictures at a time, the others wait their turn. */
import { Problem } from '../problems'

const AT_A_TIME = 2,
  MOST_WAITING = 64
let working = 0
const waiting: (() => void)[] = []

/** Throws Problem 503 where too many wait already. */
export async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (working >= AT_A_TIME) {
    if (waiting.length >= MOST_WAITING)
      throw new Problem(503, 'Too many pictures are being looked at; send this one again in a moment.')
    await new Promise<void>((turn) => waiting.push(turn))
  } else working++
  try {
    return await work()
  } finally {
    const next = waiting.shift()
    if (next) next()
    else working--
  }
}
