import { Square } from 'lucide-react'
import { type FinderPage } from '../finder'
import { Handles } from './Handles'
import { Panel } from './Panel'
import { press } from './press'

export const rectanglePage: FinderPage<'rectangle'> = {
  kind: 'rectangle', name: 'Rectangle', group: 'shape', icon: Square,
  hint: 'Drag a box; its handles stay. Shift before pressing adds another box, Alt takes one away; Shift while dragging keeps the sides equal, Alt draws from the centre.',
  summary: (step) => `${Math.round(step.width)} × ${Math.round(step.height)} px${step.rotation ? ` · ${Math.round(step.rotation)}°` : ''}`,
  press, Handles, Panel,
}
