/** Which of a batch's pictures are asked for, out of an address: ?state=done&doubt=20 (percent, at least)&name=lamp&order=doubt. */
import { PICTURE_ORDERS, PICTURE_STATES, type PictureOrder, type PictureState } from '@/document/batchRows'
import { LIMITS } from '@/document/limits'
import { wholeNumber } from '../address'
import { Problem } from '../problems'

export interface Filter {
  readonly state?: PictureState
  /** 0-1: at least so doubtful. */
  readonly doubt?: number
  /** Words that its name holds. */
  readonly words: readonly string[]
  readonly order: PictureOrder
}

/** Throws Problem 422. */
export function filterOf(request: Request): Filter {
  const asked = new URL(request.url).searchParams,
    state = PICTURE_STATES.find((each) => each === asked.get('state')),
    doubt = wholeNumber(request, 'doubt')
  if (asked.get('state') !== null && !state) throw new Problem(422, `state: takes one of ${PICTURE_STATES.join(', ')}.`)
  return {
    state,
    doubt: doubt === undefined ? undefined : doubt / 100,
    words: (asked.get('name') ?? '').slice(0, LIMITS.name).split(/\s+/).filter(Boolean),
    order: PICTURE_ORDERS.find((each) => each === asked.get('order')) ?? 'number',
  }
}
