'use client'
/** The workbench's small controls: each has a name, works by keyboard, and looks the same everywhere. */
import { burst } from './burst'
import { Slider as RadixSlider, Switch as RadixSwitch, ToggleGroup, Tooltip } from 'radix-ui'
import { type ButtonHTMLAttributes, type ReactNode, useEffect, useId, useRef, useState } from 'react'
import { evaluate } from './arithmetic'

export function Tip({
  text,
  keys,
  side = 'bottom',
  children,
}: {
  text: string
  keys?: string
  side?: 'bottom' | 'top' | 'left' | 'right'
  children: ReactNode
}) {
  return (
    <Tooltip.Root delayDuration={350}>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side={side}
          sideOffset={6}
          className="z-50 max-w-64 rounded-md bg-[var(--ink)] px-2.5 py-1.5 text-xs text-[var(--panel)] shadow-md"
        >
          {text}
          {keys && <kbd className="ml-2 font-mono text-[11px] opacity-70">{keys}</kbd>}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  )
}

/** A button with only an icon: `label` names it. Why it cannot work now goes into `why`, and is said on hover. */
export function IconButton({
  label,
  keys,
  why,
  children,
  className = '',
  ...rest
}: { label: string; keys?: string; why?: string } & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <Tip text={why ?? label} keys={why ? undefined : keys}>
      <button
        type="button"
        aria-label={label}
        aria-disabled={why ? true : undefined}
        {...rest}
        onClick={why ? undefined : rest.onClick}
        className={`grid size-8 shrink-0 place-items-center rounded-md text-[var(--ink)] hover:bg-[var(--hover)] aria-disabled:opacity-35 aria-disabled:hover:bg-transparent ${className}`}
      >
        {children}
      </button>
    </Tip>
  )
}

export function Button({
  tone = 'plain',
  why,
  className = '',
  children,
  ...rest
}: { tone?: 'plain' | 'accent' | 'danger'; why?: string } & ButtonHTMLAttributes<HTMLButtonElement>) {
  const tones = {
    plain: 'border border-[var(--line)] bg-[var(--panel)] hover:bg-[var(--hover)]',
    accent: 'bg-[var(--accent)] text-white hover:brightness-110',
    danger: 'bg-[#a31515] text-white hover:brightness-110',
  }
  const button = (
    <button
      type="button"
      {...rest}
      aria-disabled={why ? true : undefined}
      onClick={why ? undefined : rest.onClick}
      className={`inline-flex min-h-9 items-center justify-center gap-2 rounded-lg px-3 text-[13px] font-semibold leading-tight aria-disabled:cursor-default aria-disabled:opacity-45 ${tones[tone]} ${className}`}
    >
      {children}
    </button>
  )
  return why ? <Tip text={why}>{button}</Tip> : button
}

interface NumberProps {
  label: string
  value: number
  min: number
  max: number
  unit?: string
  digits?: number
  /** How much one of each unit that may be typed is. */ units?: Readonly<Record<string, number>>
  onSettle: (value: number) => void
  className?: string
}

/** A typed number, with units and arithmetic; Escape takes the typing back. */
export function NumberField({
  label,
  value,
  min,
  max,
  unit = '',
  digits = 0,
  units,
  onSettle,
  className = '',
}: NumberProps) {
  const shown = `${value.toFixed(digits)}${unit ? ` ${unit}` : ''}`
  const [typed, setTyped] = useState<string | null>(null)
  const wrong = typed !== null && evaluate(typed, unit, units) === null
  const settle = () => {
    const next = typed === null ? null : evaluate(typed, unit, units)
    setTyped(null)
    if (next !== null) onSettle(Math.min(max, Math.max(min, next)))
  }
  return (
    <input
      aria-label={label}
      aria-invalid={wrong || undefined}
      title={wrong ? `A number from ${min} to ${max}${unit ? ` ${unit}` : ''}` : undefined}
      inputMode="decimal"
      spellCheck={false}
      value={typed ?? shown}
      onChange={(event) => setTyped(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={settle}
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Enter') event.currentTarget.blur() // which settles, and gives single keys back to the bench
        if (event.key === 'Escape') {
          setTyped(null)
          event.currentTarget.blur()
        }
        if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
          event.preventDefault()
          const by = (event.shiftKey ? 10 : 1) * (event.key === 'ArrowUp' ? 1 : -1) * 10 ** -digits
          setTyped(null)
          onSettle(Math.min(max, Math.max(min, value + by)))
        }
      }}
      className={`h-7 rounded-md border border-transparent bg-transparent px-1 text-right font-mono text-[12.5px] tabular-nums hover:border-[var(--line)] focus:border-[var(--line-strong)] focus:bg-[var(--field)] aria-[invalid]:border-[#a31515] ${className}`}
    />
  )
}

interface SliderProps extends NumberProps {
  step: number
  fallback: number
  /** While it moves. */ onPreview: (value: number) => void
  /** Where small values matter most: 2 spends more of the track on them. */ curve?: number
}

/** Drag, wheel, arrow keys, typed value; a double click goes back to the default. */
export function Slider({
  label,
  value,
  min,
  max,
  step,
  fallback,
  unit,
  digits = 0,
  curve = 1,
  onPreview,
  onSettle,
}: SliderProps) {
  const id = useId()
  const track = useRef<HTMLSpanElement>(null)
  const signed = min < 0
  const toTrack = (v: number) =>
    signed ? Math.sign(v) * (Math.abs(v) / max) ** (1 / curve) : ((v - min) / (max - min)) ** (1 / curve)
  const fromTrack = (t: number) => {
    const v = signed ? Math.sign(t) * Math.abs(t) ** curve * max : min + t ** curve * (max - min)
    return Math.min(max, Math.max(min, Math.round(v / step) * step))
  }
  const wheel = useRef<(event: WheelEvent) => void>(() => {})
  const by = (steps: number) => {
    const next = Math.min(max, Math.max(min, value + steps * step))
    onPreview(next)
    burst(id, () => onSettle(next))
  }
  wheel.current = (event) => {
    event.preventDefault()
    by(-Math.sign(event.deltaY) * (event.shiftKey ? 10 : 1))
  }
  useEffect(() => {
    const element = track.current
    const listen = (event: WheelEvent) => wheel.current(event)
    element?.addEventListener('wheel', listen, { passive: false })
    return () => element?.removeEventListener('wheel', listen)
  }, [])
  return (
    <div className="grid grid-cols-[64px_1fr_66px] items-center gap-1.5">
      <label id={id} className="text-[13px]">
        {label}
      </label>
      <RadixSlider.Root
        ref={track}
        min={signed ? -1 : 0}
        max={1}
        step={0.0005}
        value={[toTrack(value)]}
        onValueChange={([t]) => onPreview(fromTrack(t))}
        onValueCommit={([t]) => onSettle(fromTrack(t))}
        onDoubleClick={() => onSettle(fallback)}
        onKeyDownCapture={(event) => {
          const steps = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 }[
            event.key
          ]
          if (steps === undefined) return
          event.preventDefault()
          event.stopPropagation()
          by(steps * (event.shiftKey ? 10 : 1))
        }}
        className="relative flex h-5 touch-none items-center select-none"
      >
        <RadixSlider.Track className="relative h-[3px] grow rounded-full bg-[var(--line-strong)]">
          <RadixSlider.Range className="absolute h-full rounded-full bg-[var(--ink)]" />
        </RadixSlider.Track>
        <RadixSlider.Thumb
          aria-labelledby={id}
          aria-valuetext={`${value.toFixed(digits)} ${unit ?? ''}`}
          className="block size-4 rounded-full border-[1.5px] border-[var(--ink)] bg-[var(--panel)] shadow-sm"
        />
      </RadixSlider.Root>
      <NumberField
        label={`${label}, typed`}
        value={value}
        min={min}
        max={max}
        unit={unit}
        digits={digits}
        onSettle={onSettle}
        className="w-full min-w-0"
      />
    </div>
  )
}

export function Switch({
  label,
  checked,
  onChange,
}: {
  label: string
  checked: boolean
  onChange: (on: boolean) => void
}) {
  const id = useId()
  return (
    <div className="flex items-center gap-2">
      <RadixSwitch.Root
        id={id}
        checked={checked}
        onCheckedChange={onChange}
        className="relative h-[18px] w-8 shrink-0 rounded-full bg-[var(--line-strong)] data-[state=checked]:bg-[var(--ink)]"
      >
        <RadixSwitch.Thumb className="block size-[14px] translate-x-[2px] rounded-full bg-[var(--panel)] transition-transform data-[state=checked]:translate-x-4" />
      </RadixSwitch.Root>
      <label htmlFor={id} className="text-[13px] leading-tight">
        {label}
      </label>
    </div>
  )
}

/** One of many. */
export function Select<T extends string>({
  label,
  value,
  options,
  onChange,
  className = '',
}: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  onChange: (value: T) => void
  className?: string
}) {
  return (
    <select
      aria-label={label}
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
      className={`h-7 min-w-0 rounded-md border border-[var(--line)] bg-[var(--field)] px-1.5 text-[12.5px] ${className}`}
    >
      {options.map(([v, name]) => (
        <option key={v} value={v}>
          {name}
        </option>
      ))}
    </select>
  )
}

/** One of a few. */
export function Choice<T extends string | number>({
  label,
  value,
  options,
  onChange,
  small = false,
}: {
  label: string
  value: T
  options: readonly (readonly [T, string])[]
  onChange: (value: T) => void
  small?: boolean
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={String(value)}
      onValueChange={(next) => {
        const option = options.find(([v]) => String(v) === next)
        if (option) onChange(option[0])
      }}
      className="inline-flex gap-0.5 rounded-lg border border-[var(--line)] bg-[var(--panel)] p-0.5"
    >
      {options.map(([v, name]) => (
        <ToggleGroup.Item
          key={v}
          value={String(v)}
          className={`rounded-md ${small ? 'px-1.5 py-0.5 text-xs' : 'px-2.5 py-1 text-[13px]'} font-medium hover:bg-[var(--hover)] data-[state=on]:bg-[var(--ink)] data-[state=on]:text-[var(--panel)]`}
        >
          {name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}

/** Draws a bitmap made by a worker. */
export function Bitmap({
  bitmap,
  width,
  height,
  label,
  className = '',
}: {
  bitmap: ImageBitmap | undefined
  width: number
  height: number
  label: string
  className?: string
}) {
  const surface = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const canvas = surface.current
    if (!canvas || !bitmap) return
    const context = canvas.getContext('2d')!
    const scale = Math.max(canvas.width / bitmap.width, canvas.height / bitmap.height)
    context.clearRect(0, 0, canvas.width, canvas.height)
    context.imageSmoothingQuality = 'high'
    try {
      context.drawImage(
        bitmap,
        (canvas.width - bitmap.width * scale) / 2,
        (canvas.height - bitmap.height * scale) / 2,
        bitmap.width * scale,
        bitmap.height * scale,
      )
    } catch {
      /* closed meanwhile: the next one is on its way */
    }
  }, [bitmap])
  return (
    <canvas
      ref={surface}
      role="img"
      aria-label={label}
      width={width * 2}
      height={height * 2}
      style={{ width, height }}
      className={`shrink-0 rounded-[3px] bg-[#111] ${className}`}
    />
  )
}

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
  const [typed, setTyped] = useState<string | null>(null)
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
  const valid = (text: string): boolean => /^#?[0-9a-f]{6}$/i.test(text.trim())
  return (
    <div className="flex items-center gap-2 text-[13px]">
      <span className="mr-auto">{label}</span>
      <input
        aria-label={`${label}, typed`}
        value={typed ?? value}
        spellCheck={false}
        aria-invalid={typed !== null && !valid(typed) ? true : undefined}
        onChange={(event) => setTyped(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={() => {
          if (typed !== null && valid(typed)) onSettle(`#${typed.trim().replace('#', '').toLowerCase()}`)
          setTyped(null)
        }}
        onKeyDown={(event) => {
          event.stopPropagation()
          if (event.key === 'Enter') event.currentTarget.blur()
          if (event.key === 'Escape') {
            setTyped(null)
            event.currentTarget.blur()
          }
        }}
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
