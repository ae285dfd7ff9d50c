// Pixels joined to a graph that flow.ts cuts; its memory is described there.

import { arcAt } from './flow'

/** Capacities from the source and to the sink; what is added twice adds up. Returns the flow that goes straight through. */
// @ts-ignore: decorator
@inline function addTerminals(ownBase: usize, node: i32, fromSource: i32, toSink: i32): i32 {
  const at = ownBase + ((<usize>node) << 4),
    before = load<i32>(at)
  if (before > 0) fromSource += before
  else toSink -= before
  store<i32>(at, fromSource - toSink)
  return min(fromSource, toSink)
}

/**
 * Joins the undecided pixels of a row to each other, to those of the row below, and to the decided pixels around them: what separating two
 * neighbours costs falls with their difference in colour.
 * `above`, `here`, `below`: rows of i32 from px −1 to `width`: the node, or −1 nothing, −2 decided outside, −3 decided inside.
 * `coloursAbove`, `coloursHere`, `coloursBelow`: three planes of `plane` bytes each, L*, a*, b*, floats. `evidence`: i32 capacities, above zero from the source.
 * `fall`: u16 capacities by the squared difference times `per`, `steps` + 1 of them. Only px `from` to `to` (exclusive) are looked at. Returns the flow that goes straight through.
 */
export function joinRow(
  headsAt: usize,
  restAt: usize,
  ownBase: usize,
  above: usize,
  here: usize,
  below: usize,
  coloursAbove: usize,
  coloursHere: usize,
  coloursBelow: usize,
  plane: usize,
  evidence: usize,
  fall: usize,
  steps: i32,
  per: f32,
  from: i32,
  to: i32,
): f64 {
  let through: f64 = 0
  for (let x = from; x < to; x++) {
    const cell = here + ((<usize>(x + 1)) << 2),
      node = load<i32>(cell)
    if (node < 0) continue
    const e = load<i32>(evidence + ((<usize>x) << 2))
    through += <f64>(e > 0 ? addTerminals(ownBase, node, e, 0) : addTerminals(ownBase, node, 0, -e))
    const place = (<usize>x) << 2,
      middle = coloursHere + place
    for (let way: i32 = 0; way < 8; way++) {
      const dx = way === 2 || way === 6 ? 0 : way < 2 || way === 7 ? 1 : -1,
        dy = way === 0 || way === 4 ? 0 : way < 4 ? 1 : -1
      const row = dy === 0 ? here : dy > 0 ? below : above,
        other = load<i32>(row + ((<usize>(x + 1 + dx)) << 2))
      if (other === -1 || (other >= 0 && way > 3)) continue // joined once, by the first of the two
      const theirs = (dy === 0 ? coloursHere : dy > 0 ? coloursBelow : coloursAbove) + <usize>((x + dx) << 2)
      const l = load<f32>(middle) - load<f32>(theirs),
        a = load<f32>(middle + plane) - load<f32>(theirs + plane),
        b = load<f32>(middle + 2 * plane) - load<f32>(theirs + 2 * plane)
      const step = (l * l + a * a + b * b) * per
      let capacity: i32 = load<u16>(fall + ((<usize>(step >= <f32>steps ? steps : <i32>step)) << 1))
      if (way & 1) capacity = <i32>(Math.SQRT1_2 * <f64>capacity + 0.5)
      if (other >= 0) {
        store<i32>(arcAt(headsAt, node, way), other)
        store<i32>(arcAt(headsAt, other, way ^ 4), node)
        store<i32>(arcAt(restAt, node, way), capacity)
        store<i32>(arcAt(restAt, other, way ^ 4), capacity)
      } else
        through += <f64>(
          (other === -3 ? addTerminals(ownBase, node, capacity, 0) : addTerminals(ownBase, node, 0, capacity))
        )
    }
  }
  return through
}
