/** Every finder on the page, in the order it is shown. A new one is its own folder and one row here. */
import { type Step } from '@/core/steps/registry'
import { type FinderPage, type Group, type StepPage } from './finder'
import { type FinderId, type FinderKind } from './kinds'
import { bandPage } from './band'
import { bezierPage } from './bezier'
import { colourSpotPage } from './colourSpot'
import { cornersPage } from './corners'
import { edgeBandPage } from './edgeBand'
import { edgePaintPage } from './edgePaint'
import { ellipsePage } from './ellipse'
import { freehandPage } from './freehand'
import { gradientPage } from './gradient'
import { imagePage } from './image'
import { layerPage } from './layer'
import { liveWirePage } from './liveWire'
import { marksPage } from './marks'
import { palettePage } from './palette'
import { paintPage } from './paint'
import { rectanglePage } from './rectangle'
import { regionsPage } from './regions'
import { roughBoxPage } from './roughBox'
import { similarColourPage } from './similarColour'
import { skyPage } from './sky'
import { spreadPage } from './spread'
import { subjectPage } from './subject'
import { trianglePage } from './triangle'
import { trimapPage } from './trimap'
import { waterPage } from './water'

const PAGES = [
  rectanglePage,
  ellipsePage,
  trianglePage,
  bandPage,
  freehandPage,
  cornersPage,
  bezierPage,
  liveWirePage,
  edgeBandPage,
  similarColourPage,
  palettePage,
  colourSpotPage,
  paintPage,
  edgePaintPage,
  spreadPage,
  gradientPage,
  roughBoxPage,
  marksPage,
  regionsPage,
  subjectPage,
  skyPage,
  waterPage,
] as const
/** Steps that menus make: they have cards, but are not used on the picture. */
const MADE = [imagePage, layerPage, trimapPage] as const
export const FINDER_PAGES = PAGES as unknown as readonly FinderPage<FinderKind>[]

export const GROUPS: readonly { group: Group; name: string; key: string }[] = [
  { group: 'shape', name: 'By shape', key: '1' },
  { group: 'outline', name: 'By outline', key: '2' },
  { group: 'colour', name: 'By colour', key: '3' },
  { group: 'brush', name: 'By brush', key: '4' },
  { group: 'object', name: 'By object', key: '5' },
]
/** The groups that have finders. */
export const groupsShown = () => GROUPS.filter(({ group }) => FINDER_PAGES.some((page) => page.group === group))
const STEP_PAGES: readonly StepPage<FinderKind>[] = [
  ...FINDER_PAGES,
  ...(MADE as unknown as readonly StepPage<FinderKind>[]),
]
export const finderPage = (id: FinderId): FinderPage<FinderKind> => FINDER_PAGES.find((page) => page.id === id)!
/** The finder that made a step; where several make its kind, the one it is named after. */
export const pageOfStep = (step: Step): StepPage<FinderKind> | undefined =>
  STEP_PAGES.find((page) => page.kind === step.kind && page.name === step.name) ??
  STEP_PAGES.find((page) => page.kind === step.kind)
