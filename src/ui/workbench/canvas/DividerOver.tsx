import { type Affine, apply, inverse } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { set, useBench } from '@/ui/store/bench'
import { useHeld } from '@/ui/primitives/useHeld'

/** The line between before or what was kept (left) and now (right): drag it, or move it with the arrow keys. */
export function DividerOver({ size, map, left }: { size: Size; map: Affine; left: 'before' | 'kept' }) {
  const divider = useBench((state) => state.divider),
    { width, height } = size
  const move = (x: number) => set({ divider: Math.min(width, Math.max(0, x)) }),
    held = useHeld(move)
  if (divider === null) return null
  const [x, top] = apply(map, divider, 0),
    [, bottom] = apply(map, 0, height)
  const middle = (Math.max(0, top) + Math.min(bottom, 4000)) / 2
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={left === 'kept' ? 'Saved edge and this one' : 'Before and after'}
      aria-valuemin={0}
      aria-valuemax={width}
      aria-valuenow={Math.round(divider)}
      data-grip="Before and after"
      style={{ pointerEvents: 'all', cursor: 'ew-resize', touchAction: 'none' }}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
        if (by) {
          event.preventDefault()
          event.stopPropagation()
          move(divider + by * (event.shiftKey ? 0.1 : 0.01) * width)
        }
      }}
      onPointerDown={(event) => {
        event.stopPropagation()
        event.currentTarget.setPointerCapture(event.pointerId)
        held.take(divider)
      }}
      onPointerCancel={() => held.giveBack()}
      onLostPointerCapture={() => held.letGo()}
      onPointerMove={(event) => {
        if (held.givenBack || !event.currentTarget.hasPointerCapture(event.pointerId)) return
        const box = event.currentTarget.ownerSVGElement!.getBoundingClientRect()
        move(apply(inverse(map), event.clientX - box.left, 0)[0])
      }}
    >
      <line x1={x} x2={x} y1={top} y2={bottom} stroke="transparent" strokeWidth={16} />
      <line x1={x} x2={x} y1={top} y2={bottom} stroke="#fff" strokeWidth={3} />
      <line x1={x} x2={x} y1={top} y2={bottom} stroke="#1b1b1b" strokeWidth={1} />
      <rect x={x - 58} y={Math.max(0, top) + 48} width={52} height={20} rx={5} fill="#1b1b1b" />
      <text x={x - 32} y={Math.max(0, top) + 62} fill="#fff" fontSize={11.5} textAnchor="middle">
        {left}
      </text>
      <rect x={x + 6} y={Math.max(0, top) + 48} width={40} height={20} rx={5} fill="#1b1b1b" />
      <text x={x + 26} y={Math.max(0, top) + 62} fill="#fff" fontSize={11.5} textAnchor="middle">
        now
      </text>
      <circle cx={x} cy={Number.isFinite(middle) ? middle : 100} r={9} fill="#fff" stroke="#1b1b1b" />
      <path
        d={`M${x - 3} ${middle - 3.5}l-3 3.5 3 3.5M${x + 3} ${middle - 3.5}l3 3.5 -3 3.5`}
        fill="none"
        stroke="#1b1b1b"
        strokeWidth={1.3}
      />
    </g>
  )
}
