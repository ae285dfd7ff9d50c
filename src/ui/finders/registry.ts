/** Every finder on the page, in the order it is shown. A new one is its own folder and one row here. */
import { type Step } from '@/core/select/registry'
import { type FinderPage, type Group } from './finder'
import { type FinderKind } from './kinds'
import { rectanglePage } from './rectangle'
import { similarColourPage } from './similarColour'

const PAGES = [rectanglePage, similarColourPage] as const
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
export const finderPage = (kind: string): FinderPage<FinderKind> | undefined => FINDER_PAGES.find((page) => page.kind === kind)

const MODIFIER_NAMES: Record<string, string> = { invert: 'Invert', grow: 'Grow', feather: 'Feather' }
export const stepName = (step: Step): string => step.name ?? finderPage(step.kind)?.name ?? MODIFIER_NAMES[step.kind] ?? step.kind
