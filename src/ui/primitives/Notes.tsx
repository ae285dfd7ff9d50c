'use client'
import { Toaster } from 'sonner'
import { useTheme } from './theme'

/** Where what happened is told for a moment. */
export function Notes({ beside = false }: { /** Out of the way of the workbench's right column. */ beside?: boolean }) {
  const { theme } = useTheme()
  return (
    <Toaster
      position={beside ? 'bottom-right' : 'bottom-center'}
      {...(beside ? { offset: { bottom: 40, right: 312 } } : {})}
      theme={theme}
      closeButton
      toastOptions={{ style: { fontFamily: "'Hanken Grotesk Variable', sans-serif", fontSize: 13.5 } }}
    />
  )
}
