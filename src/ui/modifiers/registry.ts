/** Every changing step on the page: its name, what it starts with, and the values its card shows. */
import { type FinderId } from '@/ui/finders/kinds'
import { pageOfStep } from '@/ui/finders/registry'
import { type ComponentType } from 'react'
import { type ModifyingStep, type Step } from '@/core/steps/registry'
import { type HandlesProps, type PanelProps } from '@/ui/finders/finder'
import { PERCENT } from '@/ui/finders/StepSlider'
import { fittingReach } from './edge/fittingReach'
import { edgeSummary } from './edge/summary'
import { transformSummary } from './transform/summary'
import { later } from '@/ui/primitives/later'
import { counted } from '@/ui/primitives/counted'

const TransformPanel = later(() => import('./transform/TransformPanel').then((module) => module.TransformPanel))
const LimitColourPanel = later(() => import('./limitColour/LimitColourPanel').then((module) => module.LimitColourPanel))
const EdgeValues = later(() => import('./edge/EdgeValues').then((module) => module.EdgeValues))
const TransformHandles = later(() => import('./transform/TransformHandles').then((module) => module.TransformHandles))

async function startOfEdge(): Promise<object> {
  const reach = await fittingReach()
  return reach === null ? {} : { reach }
}

type Kind = ModifyingStep['kind']
export interface ModifierValue {
  readonly field: string
  readonly label: string
  /** The track's ends. */ readonly min?: number
  readonly max?: number
  readonly digits?: number
  readonly unit: string
  /** What is usual, where it is not what it starts with. */ readonly usual?: number
  /** Where small values matter most. */ readonly curve?: number
  /** Shown value for one of the record's. */ readonly factor?: number
}
export interface ModifierPage {
  readonly kind: Kind
  readonly name: string
  readonly words: string
  readonly start: Readonly<Record<string, unknown>>
  readonly values: readonly ModifierValue[]
  readonly summary: (step: never) => string
  readonly Handles?: ComponentType<HandlesProps<never>>
  readonly Panel?: ComponentType<PanelProps<never>>
  /** The tool whose presses work on the open step. */
  readonly tool?: FinderId
  /** What it starts with that the picture says. */
  readonly begins?: () => Promise<object>
}

const px = (field: string, label: string, min: number, max: number, usual?: number): ModifierValue => ({
  field,
  label,
  min,
  max,
  digits: 1,
  unit: 'px',
  usual,
  curve: 2.2,
})
const page = <K extends Kind>(
  kind: K,
  name: string,
  words: string,
  start: ModifierPage['start'],
  values: readonly ModifierValue[],
  summary: (step: Extract<ModifyingStep, { kind: K }>) => string,
  own: {
    Handles?: ComponentType<HandlesProps<Extract<ModifyingStep, { kind: K }>>>
    Panel?: ComponentType<PanelProps<Extract<ModifyingStep, { kind: K }>>>
    tool?: FinderId
    begins?: () => Promise<object>
  } = {},
): ModifierPage => ({
  kind,
  name,
  words,
  start,
  values,
  summary: summary,
  ...(own as Pick<ModifierPage, 'Handles' | 'Panel' | 'tool' | 'begins'>),
})

export const MODIFIER_PAGES: readonly ModifierPage[] = [
  page('invert', 'Invert', 'Turns round everything the steps above it made.', {}, [], () => 'inside becomes outside'),
  page(
    'grow',
    'Grow or shrink',
    'Moves the edge by an exact distance.',
    { by: 2 },
    [px('by', 'Distance', -200, 200, 0)],
    ({ by }) => (by === 0 ? 'no change' : by > 0 ? `${by} px out` : `${-by} px in`),
  ),
  page(
    'feather',
    'Feather',
    'Softens the edge.',
    { radius: 3 },
    [px('radius', 'Radius', 0, 400)],
    ({ radius }) => `${radius} px`,
  ),
  page(
    'smooth',
    'Smooth',
    'Rounds off what is smaller than the radius along the edge; the edge stays crisp.',
    { radius: 4 },
    [px('radius', 'Radius', 0, 100)],
    ({ radius }) => `${radius} px`,
  ),
  page(
    'contour',
    'Contour',
    'Keeps a band along the edge, half of it on either side.',
    { thickness: 10 },
    [px('thickness', 'Thickness', 0, 200)],
    ({ thickness }) => `${thickness} px thick`,
  ),
  page(
    'fillHoles',
    'Fill holes',
    'Fills what is enclosed, up to an area.',
    { maxArea: 5000 },
    [{ field: 'maxArea', label: 'Up to', min: 1, max: 1e6, unit: 'px²', curve: 4 }],
    ({ maxArea }) => `up to ${maxArea.toLocaleString()} px²`,
  ),
  page(
    'dropSpecks',
    'Drop specks',
    'Drops separate pieces up to an area.',
    { maxArea: 200 },
    [{ field: 'maxArea', label: 'Up to', min: 1, max: 1e6, unit: 'px²', curve: 4 }],
    ({ maxArea }) => `up to ${maxArea.toLocaleString()} px²`,
  ),
  page(
    'transform',
    'Move, scale, rotate',
    'Moves, scales and rotates the selection without its pixels.',
    { matrix: [1, 0, 0, 1, 0, 0] },
    [],
    transformSummary,
    { Handles: TransformHandles, Panel: TransformPanel },
  ),
  page(
    'limitColour',
    'Only some colours',
    'Keeps only these colours of what the steps above it made: click them on the picture.',
    { colours: [] },
    [],
    ({ colours }) => counted(colours.length, 'colour'),
    { Panel: LimitColourPanel, tool: 'palette' },
  ),
  page(
    'opacity',
    'Opacity',
    'Makes the whole selection weaker.',
    { by: 0.5 },
    [{ field: 'by', label: 'Opacity', usual: 1, ...PERCENT }],
    ({ by }) => `${Math.round(by * 100)} %`,
  ),
  page(
    'edge',
    'Edge',
    'Solves the band around the edge as a matte: hair, wool, gauze. Strokes in the Edge stage widen the band and pin it.',
    {},
    [],
    edgeSummary,
    { Panel: EdgeValues, begins: startOfEdge },
  ),
  page('all', 'All', 'Selects everything.', {}, [], () => 'everything'),
  page('none', 'None', 'Begins again: the steps above it count no more.', {}, [], () => 'nothing'),
]
export const modifierPage = (kind: string): ModifierPage | undefined => MODIFIER_PAGES.find((p) => p.kind === kind)

/** The tool that goes on with a step when it is opened. */
export const toolOf = (step: Step): FinderId | undefined =>
  pageOfStep(step)?.id ?? modifierPage(step.kind)?.tool ?? undefined

/** What a step is called: its own name, or what finds or changes. */
export const stepName = (step: Step): string =>
  step.name ?? pageOfStep(step)?.name ?? modifierPage(step.kind)?.name ?? step.kind
