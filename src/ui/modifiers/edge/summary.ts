import { type StepOfKind } from '@/core/steps/registry'
import { counted } from '@/ui/primitives/counted'

export const edgeSummary = ({ reach, strokes }: StepOfKind<'edge'>): string =>
  [reach > 0 ? `${reach} px` : 'strokes only', strokes.length > 0 && counted(strokes.length, 'stroke')]
    .filter(Boolean)
    .join(' · ')
