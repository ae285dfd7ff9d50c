import { type StepOfKind } from '@/core/steps/registry'

export const edgeSummary = ({ reach, strokes }: StepOfKind<'edge'>): string =>
  [
    reach > 0 ? `${reach} px` : 'strokes only',
    strokes.length > 0 && `${strokes.length} ${strokes.length === 1 ? 'stroke' : 'strokes'}`,
  ]
    .filter(Boolean)
    .join(' · ')
