/** How every kind of step works: its description (core/steps/registry.ts) and its algorithm. A new one is one row here. */
import { type FindingStep, type ModifyingStep } from '../steps/registry'
import { type Finder, type Modifier } from './finder'
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

const FINDERS = {
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
} as const satisfies Readonly<Record<FindingStep['kind'], object>>
const MODIFIERS = {
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
} as const satisfies Readonly<Record<ModifyingStep['kind'], object>>

export const finderOf = (step: FindingStep): Finder => FINDERS[step.kind]
export const modifierOf = (step: ModifyingStep): Modifier => MODIFIERS[step.kind]
