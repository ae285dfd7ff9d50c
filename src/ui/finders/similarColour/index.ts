import { Pipette } from 'lucide-react'
import { type FinderPage } from '../finder'
import { Handles } from './Handles'
import { press } from './press'
import { later } from '@/ui/primitives/later'

const Panel = later(() => import('./Panel').then((module) => module.Panel))

export const similarColourPage: FinderPage<'similarColour'> = {
  id: 'similarColour',
  kind: 'similarColour',
  name: 'Similar',
  group: 'colour',
  icon: Pipette,
  hint: 'Click a colour; drag sideways to widen what counts as similar. Shift-click adds another pick, Alt-click takes one away.',
  summary: (step) => `tolerance ${step.tolerance} · ${step.contiguous ? 'connected' : 'everywhere'}`,
  press,
  Handles,
  Panel,
  middle: ({ width, height }) => ({ at: [Math.floor(width / 2) + 0.5, Math.floor(height / 2) + 0.5], patch: 3 }),
}
