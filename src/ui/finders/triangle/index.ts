import { Triangle } from 'lucide-react'
import { type FinderPage } from '../finder'
import { BoxHandles } from '../shape/BoxHandles'
import { BoxTool } from '../shape/BoxTool'
import { boxInMiddle, boxSummary } from '@/ui/canvas/box'
import { pressBox } from '../shape/pressBox'
import { later } from '@/ui/primitives/later'

const BoxPanel = later(() => import('../shape/BoxPanel').then((module) => module.BoxPanel))

export const trianglePage: FinderPage<'triangle'> = {
  id: 'triangle',
  kind: 'triangle',
  name: 'Triangle',
  group: 'shape',
  icon: Triangle,
  hint: 'Drag the box around it; the round grip rotates it. Shift keeps the sides equal, Alt draws from the middle.',
  summary: boxSummary,
  press: pressBox('triangle', 'Triangle'),
  Handles: BoxHandles,
  Panel: BoxPanel,
  Tool: BoxTool,
  middle: boxInMiddle,
}
