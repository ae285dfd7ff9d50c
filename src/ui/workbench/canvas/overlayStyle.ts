'use client'
/** How the selection lies over the picture. */
import { type OverlayStyle } from '@/engine/page/protocol'
import { type BenchState } from '@/ui/store/benchState'
import { comparing, cutOutAlone } from '@/ui/store/frame'

/** A hue as a strong colour, red, green, blue 0-255. */
const hueColour = (hue: number): [number, number, number] => {
  const f = (n: number) => {
    const k = (n + hue / 30) % 12
    return Math.round(255 * (0.5 - 0.45 * Math.max(-1, Math.min(k - 3, 9 - k, 1))))
  }
  return [f(0), f(8), f(4)]
}

/** The tint in force: the editor's own, or the hue rarest in the picture. */
export const tintOf = ({ tint, rarestHue }: Pick<BenchState, 'tint' | 'rarestHue'>): [number, number, number] =>
  tint
    ? ([1, 3, 5].map((at) => parseInt(tint.slice(at, at + 2), 16)) as [number, number, number])
    : hueColour(rarestHue)

/** Hands that paint inside the selection. */
const PAINTING: readonly BenchState['hand'][] = ['brush', 'bucket', 'ramp']

/** The overlay in force: selections show in Select, and as an outline while painting inside them; otherwise stages show the picture as it will be. A cut-out over the layers below is made of the layers themselves. */
export function overlayOf(state: BenchState): OverlayStyle {
  const { stage, view, before, backing, tintOpacity, tintHidden, dim, result, hand, home } = state
  const painting = stage === 'compose' && PAINTING.includes(hand) && home.kind === 'selection' && result && !before
  const mode = painting
    ? 'ants'
    : stage === 'match' && state.acts && result && !before
      ? 'tint'
      : (stage !== 'select' && stage !== 'edge') ||
          before ||
          (!result && view !== 'matte') ||
          (view === 'cutout' && backing === 'below')
        ? 'plain'
        : view
  const compare =
    comparing(state) === 'difference'
      ? ('difference' as const)
      : comparing(state) === 'divider' && state.divider !== null
        ? { leftOf: state.divider }
        : undefined
  const alone = cutOutAlone(state) !== null && compare === undefined
  return {
    mode: compare === 'difference' ? 'tint' : alone ? 'plain' : mode,
    compare,
    ...(alone ? { behind: backing === 'below' ? 'checks' : backing } : {}),
    backing: backing === 'below' ? 'checks' : backing,
    tint: tintOf(state),
    tintOpacity,
    tintHidden,
    dim,
  }
}
