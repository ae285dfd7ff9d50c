/** Values of adjustments drawn at random. */
import { type AdjustmentKind, type AdjustmentOf, parseAdjustment } from '@/core/compose/adjustments/registry'
import { type MatchedLayer } from '@/core/match/surroundings'
import { type Random } from './random'

export function relight(random: Random) {
  const light = () => [0, 0, 0].map(() => random.between(0.1, 1.2))
  return { tone: random.between(0, 1), light: light(), ambient: light(), sun: random.chance(0.5) ? light() : [0, 0, 0] }
}
export const inTheWater = (random: Random) => ({
  ripple: random.between(0, 1),
  blur: random.one([0, random.between(1, 40)]),
  horizon: random.between(-50, 300),
  tilt: random.one([0, random.between(-10, 10)]),
  was: [0, 0, 0].map(() => random.between(0.2, 1)),
})
export const hazy = (random: Random) => ({
  amount: random.between(0, 0.6),
  had: random.between(0, 0.3),
  was: [0, 0, 0].map(() => random.between(0.2, 1)),
  air: [0, 0, 0].map(() => random.between(0.2, 1)),
  horizon: random.between(-50, 300),
  tilt: random.one([0, random.between(-10, 10)]),
})
export const reflection = (random: Random) =>
  parseAdjustment({ kind: 'reflection', ...inTheWater(random) }) as AdjustmentOf<'reflection'>
/** Values far from the defaults, so that it shows. */
export const VALUES: Partial<Record<AdjustmentKind, (random: Random) => object>> = {
  reflection: inTheWater,
  haze: hazy,
  exposure: (random) => ({ stops: random.one([0, random.between(-1.5, 1.5)]) }),
  brightnessContrast: (random) => ({ brightness: random.between(-0.5, 0.5) }),
  gaussianBlur: (random) => ({ radius: random.between(0.5, 9) }),
  discBlur: (random) => ({ radius: random.between(0.5, 9) }),
  sideLight: (random) => ({
    stops: random.between(0, 2),
    angle: random.between(-180, 180),
    radius: random.between(2, 80),
  }),
  relight,
}
/** What a layer measures against its surroundings. */
export const matchedLayer = (random: Random): MatchedLayer => ({
  relight: parseAdjustment({ kind: 'relight', ...relight(random) }) as AdjustmentOf<'relight'>,
  sideLight: parseAdjustment({
    kind: 'sideLight',
    stops: random.one([0, 0.6]),
    angle: random.one([90, -90]),
  }) as AdjustmentOf<'sideLight'>,
  contrast: parseAdjustment({
    kind: 'brightnessContrast',
    contrast: random.one([0, 0.2]),
  }) as AdjustmentOf<'brightnessContrast'>,
  blur: parseAdjustment({ kind: 'gaussianBlur', radius: random.one([0, 3]) }) as AdjustmentOf<'gaussianBlur'>,
  grain: parseAdjustment({ kind: 'grain', amount: random.one([0, 0.2]) }) as AdjustmentOf<'grain'>,
  side: { own: null, around: null },
})
