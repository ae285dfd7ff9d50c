import { Square } from 'lucide-react'
import { type FinderPage } from '../finder'
import { BoxHandles } from '../shape/BoxHandles'
import { BoxTool } from '../shape/BoxTool'
import { boxInMiddle, boxSummary } from '@/ui/canvas/box'
import { pressBox } from '../shape/pressBox'
import { later } from '@/ui/primitives/later'

const BoxPanel = later(() => import('../shape/BoxPanel').then((module) => module.BoxPanel))

export const rectanglePage: FinderPage<'rectangle'> = {
  id: 'rectangle',
  kind: 'rectangle',
  name: 'Rectangle',
  group: 'shape',
  icon: Square,
  hint: 'Drag a box; its handles stay. Shift while dragging keeps the sides equal, Alt draws from the middle.',
  summary: boxSummary,
  press: pressBox('rectangle', 'Rectangle'),
  Handles: BoxHandles,
  Panel: BoxPanel,
  Tool: BoxTool,
  middle: boxInMiddle,
}
