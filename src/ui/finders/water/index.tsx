import { Droplets } from 'lucide-react'
import { get } from '@/ui/store/bench'
import { type FinderPage } from '../finder'
import { MakeNow } from '../marking/MakeNow'
import { SampleChoice } from '../marking/SampleChoice'
import { putStep } from '../putStep'

export const waterPage: FinderPage<'water'> = {
  id: 'water',
  kind: 'water',
  name: 'Water',
  group: 'object',
  icon: Droplets,
  hint: 'Finds water that mirrors the sky or a shore, without what stands in it or swims on it.',
  summary: () => 'what mirrors',
  press: (at, open) => {
    const step = putStep(at, 'water', {}, open)
    step.show({ hidden: false })
    return {
      move() {},
      end() {
        if (get().live) step.end('Water')
      },
    }
  },
  Handles: () => null,
  Panel: ({ step, home }) => <SampleChoice step={step} home={home} />,
  Tool: () => <MakeNow kind="water" name="Find the water" />,
  middle: () => ({}),
}
