import { useId } from 'react'
import { type CombineOp } from '@/core/raster/coverage'

export const OP_WORDS: Record<CombineOp, string> = {
  add: 'adds',
  subtract: 'takes away',
  intersect: 'keeps the overlap',
}

/** Two overlapping discs, the kept part filled; one alone for what comes instead of all. */
export function OpGlyph({ op }: { op: CombineOp | 'replace' }) {
  const id = useId()
  return (
    <svg width="22" height="14" viewBox="0 0 22 14" aria-hidden>
      <clipPath id={id}>
        <circle cx="14.5" cy="7" r="6" />
      </clipPath>
      {op === 'replace' && <circle cx="11" cy="7" r="6" fill="var(--keep)" />}
      {op === 'add' && (
        <g fill="var(--keep)">
          <circle cx="7.5" cy="7" r="6" />
          <circle cx="14.5" cy="7" r="6" />
        </g>
      )}
      {op === 'subtract' && (
        <g>
          <circle cx="7.5" cy="7" r="6" fill="var(--keep)" />
          <circle cx="14.5" cy="7" r="6" fill="var(--panel)" stroke="var(--muted)" strokeDasharray="2 1.6" />
        </g>
      )}
      {op === 'intersect' && (
        <g>
          <circle cx="7.5" cy="7" r="5.5" fill="none" stroke="var(--muted)" />
          <circle cx="14.5" cy="7" r="5.5" fill="none" stroke="var(--muted)" />
          <circle cx="7.5" cy="7" r="6" fill="var(--keep)" clipPath={`url(#${id})`} />
        </g>
      )}
    </svg>
  )
}
