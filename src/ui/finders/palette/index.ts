import { SwatchBook } from 'lucide-react'
import { later } from '@/ui/primitives/later'
import { type FinderPage } from '../finder'
import { press } from './press'
import { counted } from '@/ui/primitives/counted'

const PalettePanel = later(() => import('./PalettePanel').then((module) => module.PalettePanel))

export const palettePage: FinderPage<'palette'> = {
  id: 'palette',
  kind: 'palette',
  name: 'Palette',
  group: 'colour',
  icon: SwatchBook,
  hint: 'Click several colours; what resembles any of them is found, softly. A colour goes when you press its swatch. Alt-click begins a palette that takes away.',
  summary: (step) => `${counted(step.colours.length, 'colour')} · spread ${step.spread}`,
  press,
  Handles: () => null,
  Panel: PalettePanel,
}
