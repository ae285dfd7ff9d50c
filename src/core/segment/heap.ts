/** A binary heap: numbers by their cost, the cheapest first. Nothing is taken out or changed within: whoever pops passes over what is outdated. */
export class Heap {
  private readonly costs: number[] = []
  private readonly items: number[] = []
  get size(): number {
    return this.items.length
  }
  push(cost: number, item: number): void {
    const { costs, items } = this
    let i = items.length
    while (i > 0) {
      const up = (i - 1) >> 1
      if (costs[up] <= cost) break
      costs[i] = costs[up]
      items[i] = items[up]
      i = up
    }
    costs[i] = cost
    items[i] = item
  }
  pop(): [number, number] {
    const { costs, items } = this,
      top: [number, number] = [costs[0], items[0]],
      cost = costs.pop()!,
      item = items.pop()!,
      n = items.length
    if (n > 0) {
      let i = 0
      for (;;) {
        let down = 2 * i + 1
        if (down >= n) break
        if (down + 1 < n && costs[down + 1] < costs[down]) down++
        if (costs[down] >= cost) break
        costs[i] = costs[down]
        items[i] = items[down]
        i = down
      }
      costs[i] = cost
      items[i] = item
    }
    return top
  }
}
