/** What layers cannot be shown for: said once, and asked for again where it may come back. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { UNAVAILABLE } from './protocol'

/** A picture that could not be fetched is asked for again after so long, ms: first, and at most. */
const ASK_AGAIN = 1000,
  ASK_AGAIN_MOST = 30_000

export class Missing {
  private timer: ReturnType<typeof setTimeout> | undefined
  private failures = 0
  /** What has been said of each layer. */
  private readonly said = new Map<string, string>()

  constructor(private readonly say: (sentence: string) => void) {}

  /** @param failed why, by layer */
  tell(failed: ReadonlyMap<string, unknown>, again: () => void): void {
    clearTimeout(this.timer)
    if (!failed.size) {
      this.failures = 0
      this.said.clear()
      return
    }
    for (const [layer, error] of failed) {
      const sentence = sentenceOf(error)
      if (this.said.get(layer) !== sentence) this.say(sentence)
      this.said.set(layer, sentence)
    }
    if ([...failed.values()].some((error) => error instanceof Error && error.name === UNAVAILABLE))
      this.timer = setTimeout(again, Math.min(ASK_AGAIN_MOST, ASK_AGAIN * 2 ** this.failures++))
  }
  close(): void {
    clearTimeout(this.timer)
  }
}
