'use client'
import { sameHome } from '@/ui/store/frame'
import { putSteps } from '@/document/edits'
import { Button } from '@/ui/primitives/Button'
import { Choice } from '@/ui/primitives/Choice'
import { act, get, set, shownProject, shownSteps, useBench } from '@/ui/store/bench'
import { type BenchState } from '@/ui/store/benchState'
import { keepEdge } from '@/ui/store/rendering'

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`

/** An edge is kept, others are tried, and both are seen: beside each other, or where they differ. */
export function Compare() {
  const kept = useBench((state) =>
      state.keptEdge && sameHome(state.keptEdge.home, state.home) ? state.keptEdge : null,
    ),
    how = useBench((state) => state.compare),
    result = useBench((state) => state.result),
    steps = useBench(shownSteps)
  const choose = (compare: BenchState['compare']) => {
    const state = get(),
      width = shownProject(state)?.canvas.width ?? 0
    set({ compare, divider: compare === 'divider' ? (state.divider ?? width / 2) : null })
  }
  return (
    <section aria-label="Compare" className="mb-4 space-y-1.5 px-1">
      <h2 className="text-xs text-[var(--muted)]">Compare</h2>
      <Button
        className="!min-h-8 w-full"
        why={result ? undefined : 'There is no edge yet.'}
        onClick={() => {
          void keepEdge().then(() => {
            if (get().compare === 'off') choose('divider')
          })
        }}
      >
        {kept ? 'Compare with this one' : 'Compare with this edge'}
      </Button>
      {kept && (
        <>
          <Choice
            small
            label="How the kept edge is compared"
            value={how}
            options={[
              ['off', 'off'],
              ['divider', 'beside'],
              ['difference', 'difference'],
            ]}
            onChange={choose}
          />
          <table className="w-full text-xs tabular-nums" data-compare>
            <thead className="text-[var(--muted)]">
              <tr>
                <th />
                <th className="text-right font-normal">kept</th>
                <th className="text-right font-normal">now</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <th className="text-left font-normal">soft edge</th>
                <td className="text-right">{percent(kept.soft)}</td>
                <td className="text-right">{result ? percent(result.soft) : '–'}</td>
              </tr>
              <tr>
                <th className="text-left font-normal">selected</th>
                <td className="text-right">{percent(kept.selected)}</td>
                <td className="text-right">{result ? percent(result.selected) : '–'}</td>
              </tr>
            </tbody>
          </table>
          {how === 'difference' && (
            <p className="text-xs leading-relaxed text-[var(--muted)]">
              Blue: more than the kept one. Amber, hatched: less.
            </p>
          )}
          <button
            type="button"
            disabled={kept.steps === steps}
            className="text-xs text-[var(--muted)] underline underline-offset-2 disabled:no-underline"
            onClick={() => act('Back to the kept edge', putSteps(kept.home, structuredClone(kept.steps), true))}
          >
            back to the kept one
          </button>
        </>
      )}
    </section>
  )
}
