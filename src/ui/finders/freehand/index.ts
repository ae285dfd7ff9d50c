import { Spline } from 'lucide-react'
import { type StepOfKind } from '@/core/steps/registry'
import { abandon, get } from '@/ui/store/bench'
import { type Drag, type FinderPage, type Press } from '../finder'
import { OutlineHandles } from '../outline/OutlineHandles'
import { type Point, rounded, simplify, steadied } from '../outline/simplify'
import { putStep } from '../putStep'
import { later } from '@/ui/primitives/later'
import { counted } from '@/ui/primitives/counted'

const OutlinePanel = later(() => import('../outline/OutlinePanel').then((module) => module.OutlinePanel))

/** How far the kept outline may lie from the drawn one, CSS px: below what a hand can aim at. */
const TOLERANCE_PX = 0.7
const LEAST_POINTS = 3

function press(at: Press, open: StepOfKind<'polygon'> | undefined): Drag {
  const step = putStep(at, 'polygon', { name: 'Freehand', points: [] }, open)
  const drawn: Point[] = [at.point]
  const kept = () => rounded(simplify(steadied(drawn), TOLERANCE_PX / at.scale))
  return {
    move(point) {
      drawn.push(point)
      if (drawn.length >= LEAST_POINTS) step.show({ name: 'Freehand', points: kept() })
    },
    end() {
      if (kept().length >= LEAST_POINTS) step.end('Freehand')
      else if (get().live) abandon()
    },
  }
}

export const freehandPage: FinderPage<'polygon'> = {
  id: 'freehand',
  kind: 'polygon',
  name: 'Freehand',
  group: 'outline',
  icon: Spline,
  hint: 'Drag around it; letting go closes the outline. Its points stay and can be moved. Shift before pressing adds another, Alt takes one away.',
  summary: (step) => counted(step.points.length, 'point'),
  press,
  Handles: OutlineHandles,
  Panel: OutlinePanel,
}
