/**
 * Minimum cut of a graph between a source and a sink, by augmenting paths along two search trees that are kept from one path to the next.
 * Source: Boykov and Kolmogorov, "An experimental comparison of min-cut/max-flow algorithms for energy minimization in vision",
 * IEEE Trans. Pattern Analysis and Machine Intelligence 26 (2004); distances to the root as their section 3.2.3 suggests.
 */

const FREE = 0, SOURCE = 1, SINK = 2
const NONE = -1, TERMINAL = -2, ORPHAN = -3
/** Nodes grown between two reports. */
const CHECK_EVERY = 1 << 15

export class FlowGraph {
  private readonly first: Int32Array
  private readonly head: Int32Array
  private readonly next: Int32Array
  private readonly residual: Int32Array
  /** Residual capacity from the source (positive) or to the sink (negative). */
  private readonly terminal: Int32Array
  private readonly tree: Uint8Array
  private readonly parent: Int32Array
  private readonly stamp: Int32Array
  private readonly distance: Int32Array
  private arcs = 0
  private flow = 0
  // Active nodes: a ring, each node in it once.
  private readonly ring: Int32Array
  private readonly waiting: Uint8Array
  private ringHead = 0
  private ringCount = 0
  private orphans: number[] = []
  private time = 0

  /** @param nodes their number @param edges how many edges there will be at most */
  constructor(readonly nodes: number, edges: number) {
    this.first = new Int32Array(nodes).fill(NONE)
    this.head = new Int32Array(edges * 2)
    this.next = new Int32Array(edges * 2)
    this.residual = new Int32Array(edges * 2)
    this.terminal = new Int32Array(nodes)
    this.tree = new Uint8Array(nodes)
    this.parent = new Int32Array(nodes).fill(NONE)
    this.stamp = new Int32Array(nodes)
    this.distance = new Int32Array(nodes)
    this.ring = new Int32Array(nodes)
    this.waiting = new Uint8Array(nodes)
  }

  /** Capacities from the source and to the sink, whole numbers from 0 on; what is added twice adds up. */
  addTerminals(node: number, fromSource: number, toSink: number): void {
    const before = this.terminal[node]
    if (before > 0) fromSource += before; else toSink -= before
    this.flow += Math.min(fromSource, toSink)
    this.terminal[node] = fromSource - toSink
  }

  /** An edge with a capacity each way, whole numbers from 0 on. */
  addEdge(a: number, b: number, capacity: number, back: number): void {
    const { first, head, next, residual } = this
    const arc = this.arcs
    this.arcs += 2
    head[arc] = b; residual[arc] = capacity; next[arc] = first[a]; first[a] = arc
    head[arc + 1] = a; residual[arc + 1] = back; next[arc + 1] = first[b]; first[b] = arc + 1
  }

  /** The value of the maximum flow. Called once. @param check is called now and then with the progress as far as it can be told (0-1) */
  maxFlow(check: (progress: number) => void = () => {}): number {
    const { terminal, tree, parent, distance } = this
    for (let i = 0; i < this.nodes; i++) {
      if (terminal[i] === 0) continue
      tree[i] = terminal[i] > 0 ? SOURCE : SINK
      parent[i] = TERMINAL
      distance[i] = 1
      this.activate(i)
    }
    let grown = 0, current = NONE
    for (;;) {
      if (current === NONE) {
        if (this.ringCount === 0) break
        current = this.ring[this.ringHead]
        this.ringHead = this.ringHead + 1 === this.nodes ? 0 : this.ringHead + 1
        this.ringCount--
        this.waiting[current] = 0
        if (++grown % CHECK_EVERY === 0) check(Math.min(0.95, grown / (4 * this.nodes)))
      }
      if (parent[current] === NONE) { current = NONE; continue }
      const bridge = this.grow(current)
      this.time++
      if (bridge === NONE) { current = NONE; continue }
      this.augment(bridge)
      this.adopt()
    }
    return this.flow
  }

  /** After `maxFlow`: true for the nodes on the source's side; those that neither side reaches count to the sink's. */
  onSourceSide(node: number): boolean { return this.tree[node] === SOURCE }

  private activate(node: number): void {
    if (this.waiting[node]) return
    this.waiting[node] = 1
    let at = this.ringHead + this.ringCount
    if (at >= this.nodes) at -= this.nodes
    this.ring[at] = node
    this.ringCount++
  }

  /** Grows a tree from a node; returns the arc from the source's tree to the sink's when they meet. */
  private grow(p: number): number {
    const { first, head, next, residual, tree, parent, stamp, distance } = this
    const side = tree[p]
    for (let arc = first[p]; arc !== NONE; arc = next[arc]) {
      if ((side === SOURCE ? residual[arc] : residual[arc ^ 1]) === 0) continue
      const q = head[arc], other = tree[q]
      if (other === FREE) {
        tree[q] = side
        parent[q] = arc ^ 1
        stamp[q] = stamp[p]
        distance[q] = distance[p] + 1
        this.activate(q)
      } else if (other !== side) return side === SOURCE ? arc : arc ^ 1
      else if (stamp[q] <= stamp[p] && distance[q] > distance[p]) {
        parent[q] = arc ^ 1
        stamp[q] = stamp[p]
        distance[q] = distance[p] + 1
      }
    }
    return NONE
  }

  private augment(bridge: number): void {
    const { head, residual, parent, terminal, orphans } = this
    let least = residual[bridge], i = head[bridge ^ 1]
    for (let arc = parent[i]; arc !== TERMINAL; arc = parent[i]) { if (residual[arc ^ 1] < least) least = residual[arc ^ 1]; i = head[arc] }
    if (terminal[i] < least) least = terminal[i]
    i = head[bridge]
    for (let arc = parent[i]; arc !== TERMINAL; arc = parent[i]) { if (residual[arc] < least) least = residual[arc]; i = head[arc] }
    if (-terminal[i] < least) least = -terminal[i]

    residual[bridge ^ 1] += least
    residual[bridge] -= least
    i = head[bridge ^ 1]
    for (let arc = parent[i]; arc !== TERMINAL; arc = parent[i]) {
      residual[arc] += least
      residual[arc ^ 1] -= least
      const up = head[arc]
      if (residual[arc ^ 1] === 0) { parent[i] = ORPHAN; orphans.push(i) }
      i = up
    }
    terminal[i] -= least
    if (terminal[i] === 0) { parent[i] = ORPHAN; orphans.push(i) }
    i = head[bridge]
    for (let arc = parent[i]; arc !== TERMINAL; arc = parent[i]) {
      residual[arc ^ 1] += least
      residual[arc] -= least
      const up = head[arc]
      if (residual[arc] === 0) { parent[i] = ORPHAN; orphans.push(i) }
      i = up
    }
    terminal[i] += least
    if (terminal[i] === 0) { parent[i] = ORPHAN; orphans.push(i) }
    this.flow += least
  }

  /** Finds new parents for the nodes whose path to a terminal was cut, or sets them free. */
  private adopt(): void {
    const { first, head, next, residual, tree, parent, stamp, distance, orphans } = this
    const time = this.time
    for (let k = 0; k < orphans.length; k++) {
      const p = orphans[k], side = tree[p]
      let best = NONE, bestDistance = 0x7fffffff
      for (let arc = first[p]; arc !== NONE; arc = next[arc]) {
        if ((side === SOURCE ? residual[arc ^ 1] : residual[arc]) === 0) continue
        let q = head[arc]
        if (tree[q] !== side || parent[q] === NONE) continue
        let d = 0
        for (;;) { // is its origin a terminal?
          if (stamp[q] === time) { d += distance[q]; break }
          const up = parent[q]
          d++
          if (up === TERMINAL) { stamp[q] = time; distance[q] = 1; break }
          if (up === ORPHAN || up === NONE) { d = 0x7fffffff; break }
          q = head[up]
        }
        if (d === 0x7fffffff) continue
        if (d < bestDistance) { best = arc; bestDistance = d }
        for (q = head[arc]; stamp[q] !== time; q = head[parent[q]]) { stamp[q] = time; distance[q] = d--; if (parent[q] === TERMINAL) break }
      }
      if (best !== NONE) { parent[p] = best; stamp[p] = time; distance[p] = bestDistance + 1; continue }
      for (let arc = first[p]; arc !== NONE; arc = next[arc]) {
        const q = head[arc], up = parent[q]
        if (tree[q] !== side || up === NONE) continue
        if ((side === SOURCE ? residual[arc ^ 1] : residual[arc]) !== 0) this.activate(q)
        if (up >= 0 && head[up] === p) { parent[q] = ORPHAN; orphans.push(q) }
      }
      tree[p] = FREE
      parent[p] = NONE
    }
    orphans.length = 0
  }
}
