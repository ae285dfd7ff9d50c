'use client'
import { SquareStack } from 'lucide-react'
import { layerById, picksBackground, recipeAt, switchBackground } from '@/document/edits'
import { shownShare } from '@/document/masks'
import { act, shownProject, useBench } from '@/ui/store/bench'
import { Button } from '@/ui/primitives/Button'
import { Switch } from '@/ui/primitives/Choice'
import { MakeMenuButton } from './MakeMenuButton'
import { makeMaskNow, maskProblem } from '@/ui/store/makeOf'

/** How much is selected, whether that is the background, and what can be made of it. Where there are no steps it says so, and offers nothing. */
export function ResultLine() {
  const project = useBench(shownProject),
    home = useBench((state) => state.home),
    result = useBench((state) => state.result),
    selecting = useBench((state) => state.selecting)
  const recipe = project ? recipeAt(project, home) : undefined
  const layer = project ? layerById(project, project.activeLayer) : undefined
  const mask = home.kind === 'mask' && project ? layerById(project, home.layer)?.mask : null
  const percent = (share: number) => `${(share * 100).toFixed(1)} %`
  const something = (recipe?.steps.length ?? 0) > 0
  return (
    <div className="space-y-2 px-3 pt-0.5">
      <div className="flex justify-between text-[12.5px]" aria-live="polite">
        <span data-selected aria-busy={selecting}>
          {result
            ? mask
              ? `${percent(shownShare(mask, result.selected))} shown`
              : `${percent(result.selected)} selected`
            : selecting && something
              ? 'being made …'
              : 'nothing selected'}
        </span>
        <span className="text-[var(--muted)]">{result ? `soft edge ${percent(result.soft)}` : ''}</span>
      </div>
      {something && (
        <Switch
          label="What I picked is the background"
          checked={picksBackground(recipe)}
          onChange={(on) =>
            act(
              on ? 'The background was picked' : 'The subject was picked',
              switchBackground(home, on, crypto.randomUUID()),
            )
          }
        />
      )}
      {something && home.kind === 'selection' && (
        <div className="flex gap-1.5">
          <Button tone="accent" why={maskProblem()} onClick={makeMaskNow} className="!min-h-8 min-w-0 flex-1">
            <SquareStack size={16} />
            <span className="whitespace-nowrap">{layer?.mask ? 'Replace mask' : 'Make mask'}</span>
            {layer ? <span className="truncate font-normal">on {layer.name}</span> : null}
          </Button>
          <MakeMenuButton />
        </div>
      )}
    </div>
  )
}
