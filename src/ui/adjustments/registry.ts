/** Every adjustment and effect on the page, in the order it is shown: its words and its values. A new one is one row here, and a panel of its own where sliders are not enough. */
import { type ComponentType } from 'react'
import { type AdjustmentKind, type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { later } from '@/ui/primitives/later'
import { type AdjustmentPanelProps } from './panel'
import { counted } from '@/ui/primitives/counted'

/** Shown values: the record's times `factor`. */
export interface AdjustmentValue {
  readonly field: string
  readonly label: string
  readonly min: number
  readonly max: number
  readonly digits: number
  readonly unit: string
  readonly factor: number
  readonly curve: number
  /** Shown only where not all numbers of this field are 0: without them it does nothing. */
  readonly needs?: string
}
export interface AdjustmentPage {
  readonly kind: AdjustmentKind
  readonly name: string
  /** Where the menu of new layers has it; null: it is made elsewhere, from what was measured. */
  readonly group: 'light' | 'colour' | 'effect' | null
  readonly words: string
  /** Other than the usual values, so that it shows at once what it does. */ readonly start: object
  readonly values: readonly AdjustmentValue[]
  readonly Panel?: ComponentType<AdjustmentPanelProps<never>>
}

/** Whether not all numbers of a field are 0. */
export const hasSome = (record: object, field: string): boolean =>
  ((record as Record<string, readonly number[] | undefined>)[field] ?? []).some((v) => v !== 0)

const percent = (field: string, label: string, min: number, max = 100): AdjustmentValue => ({
  field,
  label,
  min,
  max,
  digits: 0,
  unit: '%',
  factor: 100,
  curve: 1,
})
const px = (field: string, label: string, max: number): AdjustmentValue => ({
  field,
  label,
  min: 0,
  max,
  digits: 1,
  unit: 'px',
  factor: 1,
  curve: 2.4,
})
const panel = <K extends AdjustmentKind>(component: ComponentType<AdjustmentPanelProps<K>>) =>
  component as unknown as ComponentType<AdjustmentPanelProps<never>>
const page = (
  kind: AdjustmentKind,
  name: string,
  group: AdjustmentPage['group'],
  words: string,
  values: readonly AdjustmentValue[],
  more: Partial<Pick<AdjustmentPage, 'start' | 'Panel'>> = {},
): AdjustmentPage => ({ kind, name, group, words, values, start: {}, ...more })

export const ADJUSTMENT_PAGES: readonly AdjustmentPage[] = [
  page('exposure', 'Exposure', 'light', 'In stops of light: one more doubles it.', [
    { field: 'stops', label: 'Exposure', min: -5, max: 5, digits: 2, unit: 'EV', factor: 1, curve: 1.4 },
  ]),
  page('brightnessContrast', 'Brightness, contrast', 'light', 'Bends the tones; black and white stay.', [
    percent('brightness', 'Brightness', -100),
    percent('contrast', 'Contrast', -100),
  ]),
  page('levels', 'Levels', 'light', 'What becomes black and white, and how light the middle is.', [], {
    Panel: panel<'levels'>(later(() => import('./LevelsPanel').then((module) => module.LevelsPanel))),
  }),
  page('curves', 'Curves', 'light', 'Click the curve for a point, drag it; a double click takes it away.', [], {
    Panel: panel<'curves'>(later(() => import('./CurvesPanel').then((module) => module.CurvesPanel))),
  }),
  page(
    'shadowsHighlights',
    'Shadows, highlights',
    'light',
    'Opens what is dark, brings back what is light; detail stays.',
    [percent('shadows', 'Shadows', -100), percent('highlights', 'Highlights', -100), px('radius', 'Radius', 400)],
    { start: { shadows: 0.3 } },
  ),
  page(
    'clarity',
    'Clarity',
    'light',
    'Contrast against the surroundings, in the middle tones.',
    [percent('amount', 'Amount', -100), px('radius', 'Radius', 400)],
    { start: { amount: 0.3 } },
  ),
  page(
    'sideLight',
    'Light from a side',
    'light',
    'Lighter where an outline faces the light, darker where it turns away: clip it to a cut-out. 0° is above, 90° right.',
    [
      { field: 'stops', label: 'Strength', min: 0, max: 4, digits: 2, unit: 'EV', factor: 1, curve: 1.4 },
      { field: 'angle', label: 'From', min: -180, max: 180, digits: 0, unit: '°', factor: 1, curve: 1 },
      px('radius', 'Roundness', 1500),
    ],
    { start: { stops: 0.7 } },
  ),
  page('relight', 'New light', null, 'How far it follows the new light; 100 % is as it was measured.', [
    percent('tone', 'Tone', 0),
    percent('colour', 'Colour', 0),
    { ...percent('direct', 'Direct light', 0), needs: 'sun' },
  ]),
  page('haze', 'Haze', null, 'The air’s light before what is far: as much as there was, in the new air’s colour.', [
    percent('amount', 'Haze', 0),
  ]),
  page('reflection', 'Reflection', null, 'What lies at the bottom of the group, mirrored about the horizon.', [
    percent('amount', 'Amount', 0),
    percent('ripple', 'Ripple', 0),
    px('blur', 'Blur', 600),
  ]),
  page('whiteBalance', 'White balance', 'colour', 'Warmer or cooler, greener or more magenta.', [
    percent('temperature', 'Warmth', -100),
    percent('tint', 'Tint', -100),
  ]),
  page('hueSaturation', 'Hue, saturation', 'colour', 'For all colours, or for parts of the hue circle.', [], {
    Panel: panel<'hueSaturation'>(
      later(() => import('./HueSaturationPanel').then((module) => module.HueSaturationPanel)),
    ),
  }),
  page('vibrance', 'Vibrance', 'colour', 'Saturation for what has little of it.', [percent('amount', 'Amount', -100)], {
    start: { amount: 0.3 },
  }),
  page('blackAndWhite', 'Black and white', 'colour', 'Grey from shares of red, green and blue.', [], {
    Panel: panel<'blackAndWhite'>(
      later(() => import('./BlackAndWhitePanel').then((module) => module.BlackAndWhitePanel)),
    ),
  }),
  page('tint', 'Tint', 'colour', 'All tones in one colour.', [], {
    Panel: panel<'tint'>(later(() => import('./TintPanel').then((module) => module.TintPanel))),
  }),
  page('invert', 'Invert', 'colour', 'Each colour’s opposite.', []),
  page('gaussianBlur', 'Soft blur', 'effect', 'Gaussian; the radius is two standard deviations.', [
    px('radius', 'Radius', 600),
  ]),
  page('discBlur', 'Lens blur', 'effect', 'Points of light become even discs.', [px('radius', 'Radius', 600)]),
  page('sharpen', 'Sharpen', 'effect', 'Below the threshold, noise mostly, nothing is sharpened.', [
    percent('amount', 'Amount', 0, 500),
    px('radius', 'Radius', 50),
    percent('threshold', 'Threshold', 0, 30),
  ]),
  page(
    'grain',
    'Grain',
    'effect',
    'Stays in its place at every zoom.',
    [
      percent('amount', 'Amount', 0),
      { field: 'size', label: 'Size', min: 0.5, max: 20, digits: 1, unit: 'px', factor: 1, curve: 2 },
    ],
    { Panel: panel<'grain'>(later(() => import('./GrainPanel').then((module) => module.GrainPanel))) },
  ),
  page('vignette', 'Vignette', 'effect', 'Darker or lighter towards the corners.', [
    percent('amount', 'Amount', -100),
    percent('size', 'Middle', 0),
    percent('soft', 'Softness', 0),
    percent('round', 'Roundness', 0),
  ]),
]
export const ADJUSTMENT_GROUPS: readonly (readonly [NonNullable<AdjustmentPage['group']>, string])[] = [
  ['light', 'Light'],
  ['colour', 'Colour'],
  ['effect', 'Effects'],
]
export const adjustmentPage = (kind: AdjustmentKind): AdjustmentPage =>
  ADJUSTMENT_PAGES.find((each) => each.kind === kind)!

const percentOf = (v: number) => `${Math.round(v * 100)} %`
/** The values in a few words, for the list. */
export function adjustmentSummary(record: AdjustmentRecord): string {
  switch (record.kind) {
    case 'levels':
      return `${Math.round(record.all[0] * 255)} · ${record.all[1].toFixed(2)} · ${Math.round(record.all[2] * 255)}`
    case 'curves': {
      const own = (['red', 'green', 'blue'] as const).filter(
        (name) => record[name].length !== 2 || record[name].some(([x, y]) => x !== y),
      )
      return [counted(record.all.length, 'point'), ...own].join(', ')
    }
    case 'hueSaturation':
      return (
        [
          record.turn && `hue ${Math.round(record.turn)}°`,
          record.saturation && `saturation ${percentOf(record.saturation)}`,
          record.lightness && `lightness ${percentOf(record.lightness)}`,
          record.ranges.length && counted(record.ranges.length, 'range'),
        ]
          .filter(Boolean)
          .join(', ') || 'no change'
      )
    case 'blackAndWhite':
      return [record.red, record.green, record.blue].map(percentOf).join(' · ')
    case 'tint':
      return `${record.colour}, ${percentOf(record.amount)}`
    case 'invert':
      return 'opposite colours'
    default:
      return adjustmentPage(record.kind)
        .values.filter(({ needs }) => !needs || hasSome(record, needs))
        .map(
          ({ field, label, digits, unit, factor }) =>
            `${label.toLowerCase()} ${((record as unknown as Record<string, number>)[field] * factor).toFixed(digits)}${unit ? ` ${unit}` : ''}`,
        )
        .join(', ')
  }
}
