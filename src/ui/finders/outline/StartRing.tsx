/** A press inside the ring closes the outline. */
export function StartRing({ at: [x, y] }: { at: readonly [number, number] }) {
  return (
    <g pointerEvents="none">
      <circle cx={x} cy={y} r={7} fill="none" stroke="#fff" strokeWidth={3.5} />
      <circle cx={x} cy={y} r={7} fill="none" stroke="#1b1b1b" strokeWidth={1.5} />
    </g>
  )
}
