import { Circle } from 'lucide-react'
import { type FinderPage } from '../finder'
import { BoxHandles } from '../shape/BoxHandles'
import { BoxTool } from '../shape/BoxTool'
import { boxInMiddle, boxSummary } from '@/ui/canvas/box'
import { pressBox } from '../shape/pressBox'
import { later } from '@/ui/primitives/later'

const BoxPanel = later(() => import('../shape/BoxPanel').then((module) => module.BoxPanel))

export const ellipsePage: FinderPage<'ellipse'> = {
  id: 'ellipse',
  kind: 'ellipse',
  name: 'Ellipse',
  group: 'shape',
  icon: Circle,
  hint: 'Drag the box around it. Shift while dragging keeps the sides equal, Alt draws from the middle.',
  summary: boxSummary,
  press: pressBox('ellipse', 'Ellipse'),
  Handles: BoxHandles,
  Panel: BoxPanel,
  Tool: BoxTool,
  middle: boxInMiddle,
}
