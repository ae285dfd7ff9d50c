import { PenTool } from 'lucide-react'
import { subpathsOf } from '@/core/vector/path'
import { type FinderPage } from '../finder'
import { openEnd } from './nodes'
import { finish, press, takeBack } from './press'
import { later } from '@/ui/primitives/later'

const Panel = later(() => import('./Panel').then((module) => module.Panel)),
  Handles = later(() => import('./Handles').then((module) => module.Handles))

export const bezierPage: FinderPage<'path'> = {
  id: 'bezier',
  kind: 'path',
  name: 'Bézier',
  group: 'outline',
  icon: PenTool,
  hint: 'Click for corners, drag for smooth points. The ring at the start, a double click or Enter closes; Backspace takes the last point back, Esc leaves the path open.',
  summary: (step) => {
    const path = subpathsOf(step.d)
    return `${path.reduce((sum, { nodes }) => sum + nodes.length, 0)} points${openEnd(path) ? ' · open' : ''}`
  },
  press,
  Handles,
  Panel,
  finish,
  takeBack,
}
