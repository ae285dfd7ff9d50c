'use client'
import { useEffect, useRef } from 'react'
import { useTyping } from './useTyping'

const isColour = (text: string): boolean => /^#?[0-9a-f]{6}$/i.test(text.trim())

/** A colour: picked, or typed as #rrggbb. */
export function ColourField({
  label,
  value,
  onPreview,
  onSettle,
}: {
  label: string
  value: `#${string}`
  onPreview: (colour: `#${string}`) => void
  onSettle: (colour: `#${string}`) => void
}) {
  const { typed, field } = useTyping(value, (text) => {
    if (isColour(text)) onSettle(`#${text.trim().replace('#', '').toLowerCase()}`)
  })
  const surface = useRef<HTMLInputElement>(null)
  // React's change event comes with every move; the browser's own, when the picker is closed, is what settles.
  const settle = useRef(onSettle)
  settle.current = onSettle
  useEffect(() => {
    const element = surface.current,
      done = () => settle.current(element!.value as `#${string}`)
    element?.addEventListener('change', done)
    return () => element?.removeEventListener('change', done)
  }, [])
  return (
    <div className="flex items-center gap-2 text-[13px]">
      <span className="mr-auto">{label}</span>
      <input
        aria-label={`${label}, typed`}
        {...field}
        aria-invalid={typed !== null && !isColour(typed) ? true : undefined}
        onFocus={(event) => event.target.select()}
        className="h-7 w-[76px] rounded-md border border-transparent bg-transparent px-1 text-right font-mono text-[12.5px] hover:border-[var(--line)] focus:border-[var(--line-strong)] focus:bg-[var(--field)] aria-[invalid]:border-[#a31515]"
      />
      <input
        ref={surface}
        type="color"
        aria-label={label}
        value={value}
        onInput={(event) => onPreview((event.target as HTMLInputElement).value as `#${string}`)}
        onChange={() => {}}
        className="size-7 shrink-0 cursor-pointer rounded border-0 bg-transparent p-0"
      />
    </div>
  )
}
