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
  hint: 'Drag the box around it, the apex is on top; turn it by its round grip. Shift before pressing adds another, Alt takes one away; Shift while dragging keeps the sides equal, Alt draws from the centre.',
  summary: boxSummary,
  press: pressBox('triangle', 'Triangle'),
  Handles: BoxHandles,
  Panel: BoxPanel,
  Tool: BoxTool,
  middle: boxInMiddle,
}
