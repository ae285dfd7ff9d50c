'use client'
/** Says at the picture that a mask is edited, not the selection, and leads back. */
import { layerById } from '@/document/edits'
import { SELECTION } from '@/document/records'
import { shownProject, useBench, workOnSteps } from '@/ui/store/bench'
import { drawsSteps } from '@/ui/store/focus'

export function MaskSign() {
  const name = useBench((state) => {
    const project = shownProject(state)
    return project && state.home.kind === 'mask' && drawsSteps(state.stage) && !state.bare
      ? layerById(project, state.home.layer)?.name
      : undefined
  })
  if (name === undefined) return null
  return (
    <div
      data-mask-sign
      className="absolute bottom-3 left-[calc(12px+var(--ruler))] flex max-w-[60%] items-center gap-2 rounded-lg border border-[var(--line)] bg-[var(--panel)] py-1 pr-1 pl-3 text-[12.5px]"
    >
      <span className="truncate">
        Editing the mask of <b className="font-semibold">{name}</b>
      </span>
      <button
        type="button"
        onClick={() => workOnSteps(SELECTION)}
        className="shrink-0 rounded-md px-2 py-1 font-semibold text-[var(--accent-text)] hover:bg-[var(--hover)]"
      >
        Done
      </button>
    </div>
  )
}
