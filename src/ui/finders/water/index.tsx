import { Droplets } from 'lucide-react'
import { type FinderPage } from '../finder'
import { MakeNow } from '../marking/MakeNow'
import { SampleChoice } from '../marking/SampleChoice'
import { oneClick } from '../oneClick'

export const waterPage: FinderPage<'water'> = {
  id: 'water',
  kind: 'water',
  name: 'Water',
  group: 'object',
  icon: Droplets,
  hint: 'Finds water that mirrors the sky or a shore, without what stands in it or swims on it.',
  summary: () => 'what mirrors',
  press: oneClick('water', 'Water'),
  Handles: () => null,
  Panel: ({ step, home }) => <SampleChoice step={step} home={home} />,
  Tool: () => <MakeNow kind="water" name="Find the water" />,
  middle: () => ({}),
}
