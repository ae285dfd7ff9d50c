'use client'
import { burst } from './burst'
import { Slider as RadixSlider } from 'radix-ui'
import { useEffect, useId, useRef } from 'react'
import { NumberField, type NumberProps } from './NumberField'

interface SliderProps extends NumberProps {
  step: number
  fallback: number
  /** While it moves. */ onPreview: (value: number) => void
  /** A value that was measured: shown on the track. */ mark?: number
  /** Where small values matter most: 2 spends more of the track on them. */ curve?: number
}

/** Where the middle of the thumb (24 px) is that stands so far along, 0-1; the mark is 2 px wide. */
const markAt = (along: number): string => `calc(${100 * along}% + ${11 - 24 * along}px)`

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
  mark,
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
    <div>
      <div className="flex items-center justify-between gap-2">
        <label id={id} className="min-w-0 truncate text-[13px]">
          {label}
        </label>
        <NumberField
          label={`${label}, typed`}
          value={value}
          min={min}
          max={max}
          unit={unit}
          digits={digits}
          onSettle={onSettle}
          className="w-[72px]"
        />
      </div>
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
        className="relative -mx-1 -my-0.5 flex h-6 touch-none items-center select-none"
      >
        <RadixSlider.Track className="relative mx-1 h-[3px] grow rounded-full bg-[var(--line-strong)]">
          {/* From zero: to the left of it a signed value fills the other way. */}
          <span
            className="absolute h-full rounded-full bg-[var(--ink)]"
            style={
              signed
                ? { left: `${50 + 50 * Math.min(0, toTrack(value))}%`, width: `${50 * Math.abs(toTrack(value))}%` }
                : { width: `${100 * toTrack(value)}%` }
            }
          />
          {signed && <span className="absolute -top-1 left-1/2 h-[11px] w-px bg-[var(--line-strong)]" />}
        </RadixSlider.Track>
        {mark !== undefined && (
          <span
            title={`measured: ${mark.toFixed(digits)} ${unit ?? ''}`}
            data-mark={mark}
            className="pointer-events-none absolute h-4 w-0.5 bg-[var(--accent)]"
            style={{ left: markAt(signed ? (toTrack(mark) + 1) / 2 : toTrack(mark)) }}
          />
        )}
        {/* Taken hold of on 24 px, seen on 16. */}
        <RadixSlider.Thumb
          aria-labelledby={id}
          aria-valuetext={`${value.toFixed(digits)} ${unit ?? ''}`}
          className="flex size-6 items-center justify-center rounded-full before:size-4 before:rounded-full before:border-[1.5px] before:border-[var(--ink)] before:bg-[var(--panel)] before:shadow-sm"
        />
      </RadixSlider.Root>
    </div>
  )
}
