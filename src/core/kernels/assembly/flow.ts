// Minimum cut of a grid of eight neighbours, by augmenting paths along two search trees that are kept from one path to the next.
// Source: Boykov and Kolmogorov, "An experimental comparison of min-cut/max-flow algorithms for energy minimization in vision", IEEE
// Trans. Pattern Analysis and Machine Intelligence 26 (2004); distances to the root as their section 3.2.3 suggests.
// A node has eight arcs, one in each direction (0 east, then clockwise); the arc back is the neighbour's in the direction opposite.
// Memory: `heads` and `rest` hold eight i32 for each node, the neighbour (−1: none) and the residual capacity; `own` holds 16 bytes:
// i32 residual capacity from the source (above zero) or to the sink (below), i32 stamp, i32 distance, u8 tree, u8 way to the parent,
// u8 whether it waits. `rings` holds two i32 for each node: active nodes, orphans. `progress` is 32 bytes, zero at first.

const FREE: i32 = 0,
  SOURCE: i32 = 1,
  SINK: i32 = 2
// Ways to the parent besides the eight directions.
const TERMINAL: i32 = 8,
  NONE: i32 = 9,
  ORPHAN: i32 = 10
const FARTHEST: i32 = 0x7fffffff

let heads: usize = 0,
  rest: usize = 0,
  own: usize = 0,
  ring: usize = 0,
  orphans: usize = 0,
  nodes: i32 = 0
let ringHead: i32 = 0,
  ringCount: i32 = 0,
  orphanHead: i32 = 0,
  orphanCount: i32 = 0,
  time: i32 = 0,
  flow: f64 = 0

// @ts-ignore: decorator
@inline export function arcAt(base: usize, node: i32, way: i32): usize {
  return base + ((<usize>node) << 5) + ((<usize>way) << 2)
}
// @ts-ignore: decorator
@inline function ownAt(node: i32): usize {
  return own + ((<usize>node) << 4)
}
// @ts-ignore: decorator
@inline function terminalOf(at: usize): i32 {
  return load<i32>(at)
}
// @ts-ignore: decorator
@inline function stampOf(at: usize): i32 {
  return load<i32>(at, 4)
}
// @ts-ignore: decorator
@inline function distanceOf(at: usize): i32 {
  return load<i32>(at, 8)
}
// @ts-ignore: decorator
@inline function treeOf(at: usize): i32 {
  return load<u8>(at, 12)
}
// @ts-ignore: decorator
@inline function wayOf(at: usize): i32 {
  return load<u8>(at, 13)
}
// @ts-ignore: decorator
@inline function stampAs(at: usize, stamp: i32, distance: i32): void {
  store<i32>(at, stamp, 4)
  store<i32>(at, distance, 8)
}

// @ts-ignore: decorator
@inline function activate(node: i32): void {
  const at = ownAt(node)
  if (load<u8>(at, 14)) return
  store<u8>(at, 1, 14)
  let to = ringHead + ringCount
  if (to >= nodes) to -= nodes
  store<i32>(ring + ((<usize>to) << 2), node)
  ringCount++
}

// @ts-ignore: decorator
@inline function setOrphan(node: i32): void {
  store<u8>(ownAt(node), <u8>ORPHAN, 13)
  let to = orphanHead + orphanCount
  if (to >= nodes) to -= nodes
  store<i32>(orphans + ((<usize>to) << 2), node)
  orphanCount++
}

/** Before the first use: nodes without arcs. */
export function clearFlow(headsAt: usize, restAt: usize, ownBase: usize, count: i32): void {
  memory.fill(headsAt, 255, (<usize>count) << 5)
  memory.fill(restAt, 0, (<usize>count) << 5)
  memory.fill(ownBase, 0, (<usize>count) << 4)
}

/** Starts both trees from what the terminals give, and pushes flow until it is greatest or `most` nodes have been grown from. Returns whether it is done. */
export function pushFlow(
  headsAt: usize,
  restAt: usize,
  ownBase: usize,
  rings: usize,
  count: i32,
  progress: usize,
  most: i32,
): bool {
  heads = headsAt
  rest = restAt
  own = ownBase
  nodes = count
  ring = rings
  orphans = rings + ((<usize>count) << 2)
  flow = load<f64>(progress)
  ringHead = load<i32>(progress, 8)
  ringCount = load<i32>(progress, 12)
  time = load<i32>(progress, 16)
  orphanHead = 0
  orphanCount = 0
  if (load<i32>(progress, 20) === 0) {
    store<i32>(progress, 1, 20)
    for (let i: i32 = 0; i < count; i++) {
      const at = ownAt(i),
        terminal = terminalOf(at)
      if (terminal === 0) {
        store<u8>(at, <u8>NONE, 13)
        continue
      }
      store<u8>(at, <u8>(terminal > 0 ? SOURCE : SINK), 12)
      store<u8>(at, <u8>TERMINAL, 13)
      store<i32>(at, 1, 8)
      activate(i)
    }
  }
  for (let grown: i32 = 0; ringCount > 0 && grown < most; grown++) {
    const node = load<i32>(ring + ((<usize>ringHead) << 2))
    ringHead = ringHead + 1 === nodes ? 0 : ringHead + 1
    ringCount--
    store<u8>(ownAt(node), 0, 14)
    // A node is grown from until it finds nothing more, or is in no tree any longer.
    while (wayOf(ownAt(node)) !== NONE) {
      const arc = grow(node)
      time++
      if (arc < 0) break
      augment(arc >> 3, arc & 7)
      adopt()
    }
  }
  store<f64>(progress, flow)
  store<i32>(progress, ringHead, 8)
  store<i32>(progress, ringCount, 12)
  store<i32>(progress, time, 16)
  return ringCount === 0
}

/** Grows a tree from a node; where it meets the other tree, the arc from the source's to the sink's: node · 8 + way, else −1. */
function grow(p: i32): i32 {
  const mine = ownAt(p),
    side = treeOf(mine),
    stamp = stampOf(mine),
    distance = distanceOf(mine)
  for (let way: i32 = 0; way < 8; way++) {
    const q = load<i32>(arcAt(heads, p, way))
    if (q < 0) continue
    const at = ownAt(q),
      other = treeOf(at)
    if (other === side && (stampOf(at) > stamp || distanceOf(at) <= distance)) continue
    const back = way ^ 4
    if ((side === SOURCE ? load<i32>(arcAt(rest, p, way)) : load<i32>(arcAt(rest, q, back))) === 0) continue
    if (other === FREE) {
      store<u8>(at, <u8>side, 12)
      store<u8>(at, <u8>back, 13)
      stampAs(at, stamp, distance + 1)
      activate(q)
    } else if (other !== side) return side === SOURCE ? (p << 3) | way : (q << 3) | back
    else {
      store<u8>(at, <u8>back, 13)
      stampAs(at, stamp, distance + 1)
    }
  }
  return -1
}

function augment(from: i32, way: i32): void {
  const to = load<i32>(arcAt(heads, from, way))
  // What passes: the least on the way from the source and on the way to the sink.
  let least = load<i32>(arcAt(rest, from, way)),
    i = from
  for (let w = wayOf(ownAt(i)); w !== TERMINAL; w = wayOf(ownAt(i))) {
    const up = load<i32>(arcAt(heads, i, w)),
      free = load<i32>(arcAt(rest, up, w ^ 4))
    if (free < least) least = free
    i = up
  }
  let free = terminalOf(ownAt(i))
  if (free < least) least = free
  i = to
  for (let w = wayOf(ownAt(i)); w !== TERMINAL; w = wayOf(ownAt(i))) {
    free = load<i32>(arcAt(rest, i, w))
    if (free < least) least = free
    i = load<i32>(arcAt(heads, i, w))
  }
  free = -terminalOf(ownAt(i))
  if (free < least) least = free

  let arc = arcAt(rest, from, way),
    back = arcAt(rest, to, way ^ 4)
  store<i32>(arc, load<i32>(arc) - least)
  store<i32>(back, load<i32>(back) + least)
  i = from
  for (let w = wayOf(ownAt(i)); w !== TERMINAL; w = wayOf(ownAt(i))) {
    const up = load<i32>(arcAt(heads, i, w))
    arc = arcAt(rest, up, w ^ 4)
    back = arcAt(rest, i, w)
    store<i32>(back, load<i32>(back) + least)
    const left = load<i32>(arc) - least
    store<i32>(arc, left)
    if (left === 0) setOrphan(i)
    i = up
  }
  let root = ownAt(i)
  store<i32>(root, terminalOf(root) - least)
  if (terminalOf(root) === 0) setOrphan(i)
  i = to
  for (let w = wayOf(ownAt(i)); w !== TERMINAL; w = wayOf(ownAt(i))) {
    const up = load<i32>(arcAt(heads, i, w))
    arc = arcAt(rest, i, w)
    back = arcAt(rest, up, w ^ 4)
    store<i32>(back, load<i32>(back) + least)
    const left = load<i32>(arc) - least
    store<i32>(arc, left)
    if (left === 0) setOrphan(i)
    i = up
  }
  root = ownAt(i)
  store<i32>(root, terminalOf(root) + least)
  if (terminalOf(root) === 0) setOrphan(i)
  flow += <f64>least
}

/** Finds new parents for the nodes whose way to a terminal was cut, or sets them free. */
function adopt(): void {
  const now = time
  while (orphanCount > 0) {
    const p = load<i32>(orphans + ((<usize>orphanHead) << 2))
    orphanHead = orphanHead + 1 === nodes ? 0 : orphanHead + 1
    orphanCount--
    const mine = ownAt(p),
      side = treeOf(mine)
    let best: i32 = -1,
      bestDistance = FARTHEST
    for (let way: i32 = 0; way < 8; way++) {
      const first = load<i32>(arcAt(heads, p, way))
      if (first < 0 || treeOf(ownAt(first)) !== side) continue
      if ((side === SOURCE ? load<i32>(arcAt(rest, first, way ^ 4)) : load<i32>(arcAt(rest, p, way))) === 0) continue
      // Is its origin a terminal?
      let q = first,
        d: i32 = 0
      for (;;) {
        const at = ownAt(q)
        if (stampOf(at) === now) {
          d += distanceOf(at)
          break
        }
        const up = wayOf(at)
        d++
        if (up === TERMINAL) {
          stampAs(at, now, 1)
          break
        }
        if (up >= NONE) {
          d = FARTHEST
          break
        }
        q = load<i32>(arcAt(heads, q, up))
      }
      if (d === FARTHEST) continue
      if (d < bestDistance) {
        best = way
        bestDistance = d
      }
      for (q = first; ;) {
        const at = ownAt(q)
        if (stampOf(at) === now) break
        stampAs(at, now, d--)
        q = load<i32>(arcAt(heads, q, wayOf(at)))
      }
    }
    if (best >= 0) {
      store<u8>(mine, <u8>best, 13)
      stampAs(mine, now, bestDistance + 1)
      continue
    }
    for (let way: i32 = 0; way < 8; way++) {
      const q = load<i32>(arcAt(heads, p, way))
      if (q < 0) continue
      const at = ownAt(q),
        up = wayOf(at)
      if (treeOf(at) !== side || up === NONE) continue
      if ((side === SOURCE ? load<i32>(arcAt(rest, q, way ^ 4)) : load<i32>(arcAt(rest, p, way))) !== 0) activate(q)
      if (up === (way ^ 4)) setOrphan(q)
    }
    store<u8>(mine, <u8>FREE, 12)
    store<u8>(mine, <u8>NONE, 13)
  }
}
