/** Every kind of step there is, by its description. A new one is its own file and one row here, and one beside its work in core/select. */
import { type CombineOp } from '../raster/coverage'
import { type CommonFields, type FindingFields, type FindingKind, type ModifyingKind, type Sample } from './step'
import { band } from './band'
import { colourSpot } from './colourSpot'
import { edgeBand } from './edgeBand'
import { edgePaint } from './edgePaint'
import { ellipse } from './ellipse'
import { gradient } from './gradient'
import { image } from './image'
import { layer } from './layer'
import { liveWire } from './liveWire'
import { marks } from './marks'
import { all } from './modifiers/all'
import { contour } from './modifiers/contour'
import { dropSpecks } from './modifiers/dropSpecks'
import { edge } from './modifiers/edge'
import { feather } from './modifiers/feather'
import { fillHoles } from './modifiers/fillHoles'
import { grow } from './modifiers/grow'
import { invert } from './modifiers/invert'
import { limitColour } from './modifiers/limitColour'
import { none } from './modifiers/none'
import { opacity } from './modifiers/opacity'
import { smooth } from './modifiers/smooth'
import { transform } from './modifiers/transform'
import { palette } from './palette'
import { paint } from './paint'
import { path } from './path'
import { polygon } from './polygon'
import { rectangle } from './rectangle'
import { regions } from './regions'
import { roughBox } from './roughBox'
import { saved } from './saved'
import { similarColour } from './similarColour'
import { sky } from './sky'
import { spread } from './spread'
import { subject } from './subject'
import { triangle } from './triangle'
import { trimap } from './trimap'
import { water } from './water'

export const FINDERS = {
  rectangle,
  ellipse,
  triangle,
  band,
  polygon,
  path,
  similarColour,
  palette,
  colourSpot,
  paint,
  gradient,
  image,
  layer,
  saved,
  liveWire,
  edgeBand,
  edgePaint,
  spread,
  roughBox,
  marks,
  regions,
  subject,
  sky,
  water,
  trimap,
} as const
export const MODIFIERS = {
  all,
  none,
  invert,
  grow,
  feather,
  smooth,
  contour,
  fillHoles,
  dropSpecks,
  transform,
  opacity,
  limitColour,
  edge,
} as const

type FieldsOf<F> = F extends FindingKind<string, infer P> ? P : F extends ModifyingKind<string, infer P> ? P : never
type Simplify<T> = { [K in keyof T]: T[K] } & {}

export type FindingStep = {
  [K in keyof typeof FINDERS]: Simplify<
    { kind: K } & FieldsOf<(typeof FINDERS)[K]> & FindingFields & CommonFields & { sample: Sample }
  >
}[keyof typeof FINDERS]
export type ModifyingStep = {
  [K in keyof typeof MODIFIERS]: Simplify<{ kind: K } & FieldsOf<(typeof MODIFIERS)[K]> & CommonFields>
}[keyof typeof MODIFIERS]
export type Step = FindingStep | ModifyingStep
type StepKind = Step['kind']
export type StepOfKind<K extends StepKind> = Extract<Step, { kind: K }>

export interface Recipe {
  readonly version: 1
  readonly steps: readonly Step[]
}

const kindsThat = (of: (kind: FindingKind | ModifyingKind) => boolean | undefined): ReadonlySet<string> =>
  new Set([...Object.values(FINDERS), ...Object.values(MODIFIERS)].filter(of as never).map(({ kind }) => kind))
const FINDING = kindsThat(({ finds }) => finds),
  LOOKING = kindsThat(({ looksAtPixels }) => looksAtPixels),
  DRAFTING = kindsThat((kind) => kind.finds && kind.drafts)

export const isFinding = (step: Step): step is FindingStep => FINDING.has(step.kind)
/** True when it has a quick answer while something is still being moved. */
export const drafts = (step: Step): boolean => DRAFTING.has(step.kind)
/** True when what a step covers depends on the layers it is folded over, and not on its own values alone. Another layer or a saved selection is named: it is followed, not looked at. */
export const looksAtPixels = (step: Step): boolean =>
  LOOKING.has(step.kind) || (step.kind === 'image' && step.fit === 'layer')
/** How a finding step combines: by its op, unless its own values say otherwise. */
export const opOf = (step: FindingStep): CombineOp =>
  (FINDERS[step.kind] as unknown as FindingKind).combines?.(step) ?? step.op
