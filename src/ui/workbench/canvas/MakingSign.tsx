'use client'
/** What is still being made, said at the picture. */
import { useEffect, useState } from 'react'
import { useBench } from '@/ui/store/bench'

const SIGN_AFTER_MS = 400

/** Says at the picture that what is seen is not all there is yet. */
export function MakingSign() {
  const making = useBench((state) => state.making),
    what = useBench((state) => state.progress?.what)
  const [long, setLong] = useState(false)
  useEffect(() => {
    if (!making) {
      setLong(false)
      return
    }
    const timer = setTimeout(() => setLong(true), SIGN_AFTER_MS)
    return () => clearTimeout(timer)
  }, [making])
  if (!long) return null
  return (
    <p
      role="status"
      data-making
      className="pointer-events-none absolute bottom-4 left-1/2 -translate-x-1/2 rounded-full bg-[var(--panel)] px-3.5 py-1.5 text-[12.5px] shadow-md"
    >
      {what ?? 'Making the picture'} …
    </p>
  )
}
