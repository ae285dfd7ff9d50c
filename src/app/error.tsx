'use client'
import { Failed } from '@/ui/primitives/Failed'

/** A fault of ours on any page. What was done before is kept by then, on the server or in this browser. */
export default function Fault({ reset }: { reset: () => void }) {
  return (
    <Failed
      title="This page has failed"
      problem="The fault is ours, not yours. What you did before it is kept."
      again={reset}
      back={['/', 'All projects']}
    />
  )
}
