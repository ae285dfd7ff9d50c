'use client'
import { useMemo, useRef, useState } from 'react'
import { type CurvePoints, curveThrough } from '@/core/compose/adjustments/curves'
import { Choice } from '@/ui/primitives/Choice'
import { NumberField } from '@/ui/primitives/NumberField'
import { burst } from '@/ui/primitives/burst'
import { useHeld } from '@/ui/primitives/useHeld'
import { type AdjustmentPanelProps } from './panel'
import { type Channel, CHANNELS, ToneChart } from './ToneChart'
import { useHistogram } from './useHistogram'

const HEIGHT = 180
/** Points lie at least this far apart, so that there is one value at each place. */
const APART = 1 / 255
const clamp = (v: number) => Math.min(1, Math.max(0, v))
const byte = (v: number) => Math.round(v * 255) / 255

export function CurvesPanel({ layer, record, preview, settle }: AdjustmentPanelProps<'curves'>) {
  const [channel, setChannel] = useState<Channel>('all'),
    [chosen, setChosen] = useState(0)
  const counts = useHistogram(layer),
    points = record[channel]
  const curve = useMemo(() => {
    const of = curveThrough(points)
    return Array.from({ length: 129 }, (_, i) => of(i / 128))
  }, [points])
  const surface = useRef<SVGSVGElement>(null),
    held = useRef<number | null>(null)
  const at = Math.min(chosen, points.length - 1)
  const put = (next: CurvePoints) => ({ [channel]: next }),
    grip = useHeld((before: CurvePoints) => preview(put(before)))
  const moved = (i: number, x: number, y: number): CurvePoints =>
    points.map((p, n) =>
      n === i
        ? [
            byte(
              Math.min(
                (points[i + 1]?.[0] ?? 1 + APART) - APART,
                Math.max((points[i - 1]?.[0] ?? -APART) + APART, clamp(x)),
              ),
            ),
            byte(clamp(y)),
          ]
        : p,
    )
  const without = (i: number) => {
    if (points.length > 2) settle('Remove curve point', put(points.filter((_, n) => n !== i)))
  }
  const place = (event: React.PointerEvent): [number, number] => {
    const box = surface.current!.getBoundingClientRect()
    return [clamp((event.clientX - box.left) / box.width), clamp(1 - (event.clientY - box.top) / box.height)]
  }
  const take = (pointer: number, i: number) => {
    surface.current!.setPointerCapture(pointer)
    grip.take(points)
    held.current = i
    setChosen(i)
  }
  const press = (event: React.PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return
    const [x, y] = place(event)
    const near = points.findIndex((p) => Math.hypot(p[0] - x, p[1] - y) < 0.06)
    if (near >= 0) {
      take(event.pointerId, near)
      return
    }
    const index = points.findIndex((p) => p[0] > x),
      i = index < 0 ? points.length : index
    if (points.some((p) => Math.abs(p[0] - x) < APART)) return
    take(event.pointerId, i)
    preview(put([...points.slice(0, i), [byte(x), byte(y)] as const, ...points.slice(i)])) // an act once it is let go
  }
  return (
    <>
      <Choice
        small
        label="Channel"
        value={channel}
        options={CHANNELS}
        onChange={(next) => {
          setChannel(next)
          setChosen(0)
        }}
      />
      <ToneChart counts={counts} channel={channel} curve={curve} height={HEIGHT}>
        <svg
          ref={surface}
          className="absolute inset-0 size-full cursor-crosshair touch-none"
          viewBox="0 0 1 1"
          preserveAspectRatio="none"
          aria-label="Tone curve"
          data-curve={JSON.stringify(points)}
          onPointerDown={press}
          onPointerMove={(event) => {
            if (held.current !== null && !grip.givenBack) {
              const [x, y] = place(event)
              preview(put(moved(held.current, x, y)))
            }
          }}
          onPointerUp={(event) => {
            if (held.current !== null && !grip.givenBack) {
              const [x, y] = place(event)
              settle('Change curve', put(moved(held.current, x, y)))
            }
          }}
          onPointerCancel={() => grip.giveBack()}
          onLostPointerCapture={() => {
            held.current = null
            grip.letGo()
          }}
        />
        {points.map(([x, y], i) => (
          <button
            key={i}
            type="button"
            aria-label={`Curve point ${i + 1}`}
            aria-pressed={i === at}
            onFocus={() => setChosen(i)}
            onDoubleClick={() => without(i)}
            onPointerDown={(event) => {
              event.preventDefault()
              if (event.button === 0) take(event.pointerId, i)
            }}
            onKeyDown={(event) => {
              const by = (
                { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as Record<
                  string,
                  [number, number]
                >
              )[event.key]
              if (by) {
                event.preventDefault()
                event.stopPropagation()
                const far = (event.shiftKey ? 10 : 1) / 255,
                  next = put(moved(i, x + by[0] * far, y + by[1] * far))
                burst(
                  `curve ${channel} ${i}`,
                  () => preview(next),
                  () => settle('Change curve', next),
                )
              }
              if (event.key === 'Delete' || event.key === 'Backspace') {
                event.preventDefault()
                event.stopPropagation()
                without(i)
              }
            }}
            className="absolute size-[11px] -translate-x-1/2 translate-y-1/2 touch-none rounded-full border-[1.5px] border-[var(--ink)] bg-[var(--panel)] aria-pressed:bg-[var(--accent)]"
            style={{ left: `${x * 100}%`, bottom: `${y * 100}%` }}
          />
        ))}
      </ToneChart>
      <div className="flex items-center justify-between text-[13px]">
        <label className="flex items-center gap-1">
          In
          <NumberField
            label="Curve point, in"
            value={points[at][0] * 255}
            min={0}
            max={255}
            className="w-12"
            onSettle={(v) => settle('Change curve', put(moved(at, v / 255, points[at][1])))}
          />
        </label>
        <label className="flex items-center gap-1">
          Out
          <NumberField
            label="Curve point, out"
            value={points[at][1] * 255}
            min={0}
            max={255}
            className="w-12"
            onSettle={(v) => settle('Change curve', put(moved(at, points[at][0], v / 255)))}
          />
        </label>
        <button
          type="button"
          disabled={points.length <= 2}
          onClick={() => without(at)}
          className="text-xs text-[var(--muted)] underline underline-offset-2 disabled:opacity-40"
        >
          remove
        </button>
      </div>
    </>
  )
}
