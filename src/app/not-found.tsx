import { Failed } from '@/ui/primitives/Failed'

export default function NotFound() {
  return (
    <Failed
      title="There is nothing at this address"
      problem="It may have been mistyped, or what was here is gone."
      back={['/', 'All projects']}
    />
  )
}
