import { Waypoints } from 'lucide-react'
import { type FinderPage } from '../finder'
import { OutlineHandles } from '../outline/OutlineHandles'
import { closeOutline, pressCorners, takeCornerBack } from '../outline/pressCorners'
import { later } from '@/ui/primitives/later'
import { counted } from '@/ui/primitives/counted'

const OutlinePanel = later(() => import('../outline/OutlinePanel').then((module) => module.OutlinePanel))

export const cornersPage: FinderPage<'polygon'> = {
  id: 'corners',
  kind: 'polygon',
  name: 'Corners',
  group: 'outline',
  icon: Waypoints,
  hint: 'Click corner by corner, drag in between for freehand pieces. The ring at the start, a double click or Enter closes; Backspace takes the last corner back.',
  summary: (step) => counted(step.points.length, 'point'),
  press: pressCorners({ kind: 'polygon', name: 'Corners' }),
  Handles: OutlineHandles,
  Panel: OutlinePanel,
  finish: closeOutline,
  takeBack: takeCornerBack,
}
