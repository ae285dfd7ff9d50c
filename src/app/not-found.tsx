import { Failed } from '@/ui/primitives/Failed'
import { TabTitle } from '@/ui/primitives/TabTitle'

export default function NotFound() {
  return (
    <>
      <TabTitle shown="Nothing here" />
      <Failed
        title="There is nothing at this address"
        problem="It may have been mistyped, or what was here is gone."
        back={['/', 'All projects']}
      />
    </>
  )
}
