'use client'
import { burst } from './burst'
import { Slider as RadixSlider } from 'radix-ui'
import { useEffect, useId, useRef } from 'react'
import { NumberField, type NumberProps } from './NumberField'
import { useHeld } from './useHeld'

interface SliderProps extends NumberProps {
  step: number
  fallback: number
  /** While it moves. */ onPreview: (value: number) => void
  /** A value that was measured: shown on the track. */ mark?: number
  /** Where small values matter most: 2 spends more of the track on them. */ curve?: number
}

/** The thumb is taken hold of on so many px, and seen on 16: half of that the track goes on beyond the first and the last value. */
const THUMB = 24

/** Drag, wheel, arrow keys, typed value; a double click goes back to the default, Escape in a drag to what it was. */
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
  const id = useId(),
    held = useHeld(onPreview)
  const track = useRef<HTMLSpanElement>(null)
  const signed = min < 0
  const toTrack = (v: number) =>
    signed ? Math.sign(v) * (Math.abs(v) / max) ** (1 / curve) : ((v - min) / (max - min)) ** (1 / curve)
  /** 0 is the left end, 1 the right one. */
  const along = (v: number) => (signed ? (toTrack(v) + 1) / 2 : toTrack(v))
  const fromTrack = (t: number) => {
    const v = signed ? Math.sign(t) * Math.abs(t) ** curve * max : min + t ** curve * (max - min)
    return Math.min(max, Math.max(min, Math.round(v / step) * step))
  }
  const wheel = useRef<(event: WheelEvent) => void>(() => {})
  const by = (steps: number) => {
    const next = Math.min(max, Math.max(min, value + steps * step))
    burst(
      id,
      () => onPreview(next),
      () => onSettle(next),
    )
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
        onPointerDownCapture={() => held.take(value)}
        onPointerCancel={() => held.giveBack()}
        onLostPointerCapture={() => held.letGo()}
        onValueChange={([t]) => {
          if (!held.givenBack) onPreview(fromTrack(t))
        }}
        onValueCommit={([t]) => {
          if (!held.givenBack) onSettle(fromTrack(t))
        }}
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
        className="relative mx-2 -my-0.5 flex h-6 touch-none items-center select-none"
      >
        <RadixSlider.Track className="relative -mx-2 h-[3px] grow rounded-full bg-[var(--line-strong)]">
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
            style={{ left: `calc(${100 * along(mark)}% - 1px)` }}
          />
        )}
        <RadixSlider.Thumb
          aria-labelledby={id}
          // Placed by its middle, as the pointer is: the library keeps it within the values' ends.
          style={{ transform: `translateX(${THUMB * (along(value) - 0.5)}px)` }}
          aria-valuetext={`${value.toFixed(digits)} ${unit ?? ''}`}
          className="flex size-6 items-center justify-center rounded-full before:size-4 before:rounded-full before:border-[1.5px] before:border-[var(--ink)] before:bg-[var(--panel)] before:shadow-sm"
        />
      </RadixSlider.Root>
    </div>
  )
}
