/** The tile workers: everyone knows the pictures and layers, each draws some of the tiles. The first one makes what lies over them. */
import * as Comlink from 'comlink'
import { type TileWorker } from '../protocol'
import { remoteOf, takeThread } from '../threads'

/** What lies below a changing layer is kept up to so many bytes by all of them together: at a screenful of tiles, some three places in the layers. */
const BELOW_BYTES = 160 << 20
/** Neighbouring tiles, so many in each direction, are one worker's: it has what lies below them at hand. */
const TOGETHER = 2
/** A worker with so many more requests waiting than the one with fewest does not get its own tiles. */
const BEHIND = 2

export class TilePool {
  private readonly threads: Worker[] = []
  private readonly workers: Comlink.Remote<TileWorker>[] = []
  private readonly waiting: number[] = []
  private resting: (() => void)[] = []

  constructor(width: number, epochs: SharedArrayBuffer, failed: () => void) {
    for (let i = 0; i < width; i++) {
      const thread = takeThread('tiles', failed),
        worker = remoteOf<TileWorker>(thread)
      void worker.start(epochs, Math.floor(BELOW_BYTES / width))
      this.threads.push(thread)
      this.workers.push(worker)
      this.waiting.push(0)
    }
  }

  /** All but the first one take a share of somebody's long work. @param give hands over the other end */
  help(give: (port: MessagePort) => void): void {
    for (const worker of this.workers.slice(1)) {
      const { port1, port2 } = new MessageChannel()
      void worker.help(Comlink.transfer(port1, [port1]))
      give(port2)
    }
  }

  /** Tells all of them. */
  async tell(say: (worker: Comlink.Remote<TileWorker>) => Promise<void>): Promise<void> {
    await Promise.all(this.workers.map(say))
  }
  /** Asks the one that makes what lies over the tiles. */
  overlays<T>(ask: (worker: Comlink.Remote<TileWorker>) => Promise<T>): Promise<T> {
    return this.ask(0, ask)
  }
  /** Asks the one that has least to do, of several the last: the first one has the overlays. */
  anyone<T>(ask: (worker: Comlink.Remote<TileWorker>) => Promise<T>): Promise<T> {
    return this.ask(this.waiting.lastIndexOf(Math.min(...this.waiting)), ask)
  }
  /** Asks the one whose tile that is, unless it is far behind the others. */
  tile<T>(x: number, y: number, ask: (worker: Comlink.Remote<TileWorker>) => Promise<T>): Promise<T> {
    const own = (Math.floor(x / TOGETHER) + Math.floor(y / TOGETHER)) % this.workers.length
    return this.waiting[own] >= Math.min(...this.waiting) + BEHIND ? this.anyone(ask) : this.ask(own, ask)
  }

  private async ask<T>(i: number, ask: (worker: Comlink.Remote<TileWorker>) => Promise<T>): Promise<T> {
    this.waiting[i]++
    try {
      return await ask(this.workers[i])
    } finally {
      this.waiting[i]--
      if (this.isIdle) for (const go of this.resting.splice(0)) go()
    }
  }
  private get isIdle(): boolean {
    return this.waiting.every((requests) => requests === 0)
  }
  /** When none of them has anything to do: what may wait does not take the time that what is shown needs. */
  idle(): Promise<void> {
    return new Promise((rest) => (this.isIdle ? rest() : this.resting.push(rest)))
  }

  close(): void {
    for (const thread of this.threads) thread.terminate()
  }
}
