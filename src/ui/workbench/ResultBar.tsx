'use client'
import { SquareStack } from 'lucide-react'
import { toast } from 'sonner'
import { layerById, picksBackground, recipeAt, switchBackground } from '@/document/edits'
import { shownShare } from '@/document/masks'
import { act, shownProject, useBench } from '@/ui/store/bench'
import { Button } from '@/ui/primitives/Button'
import { Switch } from '@/ui/primitives/Choice'
import { MakeMenuButton } from './MakeMenu'
import { makeMaskNow, maskProblem } from '@/ui/store/makeOf'

/** How much is selected, whether that is the background, and what can be made of it. */
export function ResultBar() {
  const project = useBench(shownProject),
    home = useBench((state) => state.home),
    result = useBench((state) => state.result),
    selecting = useBench((state) => state.selecting)
  const recipe = project ? recipeAt(project, home) : undefined
  const layer = project ? layerById(project, project.activeLayer) : undefined
  const mask = home.kind === 'mask' && project ? layerById(project, home.layer)?.mask : null
  const percent = (share: number) => `${(share * 100).toFixed(1)} %`
  const finders = recipe?.steps.filter((step) => step.kind !== 'invert').length ?? 0
  return (
    <section aria-label="Result" className="space-y-2.5 border-b border-[var(--line)] px-3 py-3">
      <div className="flex justify-between text-[12.5px]" aria-live="polite">
        <span data-selected aria-busy={selecting}>
          {result
            ? mask
              ? `${percent(shownShare(mask, result.selected))} shown`
              : `${percent(result.selected)} selected`
            : selecting && recipe?.steps.length
              ? 'being made …'
              : 'nothing selected'}
        </span>
        <span className="text-[var(--muted)]">{result ? `soft edge ${percent(result.soft)}` : ''}</span>
      </div>
      <Switch
        label="What I picked is the background"
        checked={picksBackground(recipe)}
        onChange={(on) => {
          if (finders || !on)
            act(
              on ? 'The background was picked' : 'The subject was picked',
              switchBackground(home, on, crypto.randomUUID()),
            )
          else toast('Pick something first; then say that it is the background.')
        }}
      />
      {home.kind === 'selection' && (
        <div className="flex gap-1.5">
          <Button tone="accent" why={maskProblem()} onClick={makeMaskNow} className="min-w-0 flex-1">
            <SquareStack size={16} />
            <span className="whitespace-nowrap">{layer?.mask ? 'Replace mask' : 'Make mask'}</span>
            {layer ? <span className="truncate font-normal opacity-85">on {layer.name}</span> : null}
          </Button>
          <MakeMenuButton />
        </div>
      )}
    </section>
  )
}
