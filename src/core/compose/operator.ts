import { DISJOINT_OVER, operatorNumber } from './modes'
import { type Node } from './nodes'

const OVER = operatorNumber('source-over')
export const ATOP = operatorNumber('source-atop')
/** How a node is laid onto what is below it. */
export const operatorOf = ({ atop, joins }: Node): number => (atop ? ATOP : joins ? DISJOINT_OVER : OVER)
