/**
 * Minimum cut of a grid of eight neighbours between a source and a sink, in the kernels.
 * Source: Boykov and Kolmogorov, "An experimental comparison of min-cut/max-flow algorithms for energy minimization in vision",
 * IEEE Trans. Pattern Analysis and Machine Intelligence 26 (2004).
 */
import { type KernelStack } from '../kernels'

/** Bytes for each node: eight arcs of eight bytes, 16 of its own, two places in a queue. */
const ARCS = 32,
  OWN = 16,
  QUEUES = 8,
  PROGRESS = 32
/** Where a node's own bytes say which tree it is in, and what they say of the source's. */
const TREE = 12,
  SOURCE = 1
/** Nodes grown between two reports. */
const CHECK_EVERY = 1 << 15

/** Ways to a neighbour: 0 east, then clockwise; the way back is the opposite one. */
export class FlowGrid {
  readonly heads: number
  readonly rest: number
  readonly own: number
  private readonly queues: number
  private readonly progress: number

  /** @param nodes their number; memory is 88 bytes for each, on the stack */
  constructor(
    private readonly stack: KernelStack,
    readonly nodes: number,
  ) {
    this.heads = stack.take(nodes * ARCS)
    this.rest = stack.take(nodes * ARCS)
    this.own = stack.take(nodes * OWN)
    this.queues = stack.take(nodes * QUEUES)
    this.progress = stack.take(PROGRESS)
    stack.bytes(this.progress, PROGRESS).fill(0)
    stack.run.clearFlow(this.heads, this.rest, this.own, nodes)
  }

  /** Capacities from the source and to the sink, whole numbers from 0 on. Called once a node. */
  setTerminals(node: number, fromSource: number, toSink: number): void {
    this.stack.words(this.own + node * OWN, 1)[0] = fromSource - toSink
    this.passes(Math.min(fromSource, toSink))
  }

  /** Neighbours with a capacity each way, whole numbers from 0 on. */
  setEdge(a: number, way: number, b: number, capacity: number, back: number): void {
    const heads = this.stack.words(this.heads, this.nodes * 8),
      rest = this.stack.words(this.rest, this.nodes * 8),
      opposite = way ^ 4
    heads[a * 8 + way] = b
    heads[b * 8 + opposite] = a
    rest[a * 8 + way] = capacity
    rest[b * 8 + opposite] = back
  }

  /** What flows straight from source to sink, beside the paths. */
  passes(flow: number): void {
    this.value()[0] += flow
  }

  /** The value of the maximum flow. Called once. @param check is called now and then with the progress as far as it can be told (0-1) */
  maxFlow(check: (progress: number) => void = () => {}): number {
    for (
      let grown = 0;
      !this.stack.run.pushFlow(this.heads, this.rest, this.own, this.queues, this.nodes, this.progress, CHECK_EVERY);
    )
      check(Math.min(0.95, (grown += CHECK_EVERY) / (4 * this.nodes)))
    return this.value()[0]
  }

  private value(): Float64Array {
    return new Float64Array(this.stack.run.memory.buffer, this.progress, 1)
  }

  /** After `maxFlow`: for each node 1 on the source's side, else 0; those that neither side reaches count to the sink's. */
  sides(): Uint8Array {
    const own = this.stack.bytes(this.own, this.nodes * OWN),
      out = new Uint8Array(this.nodes)
    for (let node = 0, at = TREE; node < out.length; node++, at += OWN) out[node] = own[at] === SOURCE ? 1 : 0
    return out
  }
}
