'use client'
import { labOf } from '@/core/colour/lab'
import { type Viewer } from '@/ui/canvas/viewer'
import { stepName } from '@/ui/modifiers/registry'
import { later } from '@/ui/primitives/later'
import { Menu, MenuTrigger } from '@/ui/primitives/Menu'
import { shownProject, useBench } from '@/ui/store/bench'
import { type Focus, focusOf } from '@/ui/store/focus'
import { partInView } from '@/ui/store/frame'

const wordsOf = (focus: Focus): string =>
  focus.kind === 'step'
    ? `${focus.of ? `mask of ${focus.of.name}` : 'selection'} · ${stepName(focus.step)}`
    : focus.kind === 'selection'
      ? 'selection'
      : `${focus.kind === 'mask' ? 'mask of' : 'layer'} ${focus.layer.name}`

const ZoomMenu = later(() => import('./ZoomMenu').then((module) => module.ZoomMenu))

/** Where the pointer is, what is there, what is worked on, what is under way, and the zoom. */
export function StatusLine({ viewer, cancel }: { viewer: () => Viewer | null; cancel: () => void }) {
  const pointer = useBench((state) => state.pointer),
    pixel = useBench((state) => state.pixel),
    progress = useBench((state) => state.progress),
    scale = useBench((state) => state.scale),
    shownScale = scale >= 0.1 ? Math.round(scale * 100) : (scale * 100).toFixed(1)
  const project = useBench(shownProject)
  const stage = useBench((state) => state.stage),
    hand = useBench((state) => state.hand),
    size = project && partInView({ stage, hand }, project).size
  const worked = useBench((state) => {
    const shown = shownProject(state)
    return shown ? wordsOf(focusOf(state, shown)) : ''
  })
  const on =
    pointer && size && pointer[0] >= 0 && pointer[1] >= 0 && pointer[0] < size.width && pointer[1] < size.height
  return (
    <footer className="flex h-[26px] shrink-0 items-center gap-5 border-t border-[var(--line)] bg-[var(--panel)] px-3 font-mono text-[11.5px] tabular-nums">
      <span className="w-32" data-position>
        {on ? `x ${Math.floor(pointer[0])} y ${Math.floor(pointer[1])}` : 'x – y –'}
      </span>
      <span className="flex w-52 items-center gap-2" data-pixel>
        {on && pixel && pixel[3] > 0 ? (
          <>
            <span
              className="size-3 rounded-[3px] border border-black/20"
              style={{ background: `rgb(${pixel.slice(0, 3).join(' ')})` }}
            />
            {pixel.slice(0, 3).join(' ')} · L* {Math.round(labOf(pixel[0], pixel[1], pixel[2])[0])}
          </>
        ) : on && pixel ? (
          'transparent'
        ) : (
          ''
        )}
      </span>
      <span className="truncate" data-focus>
        {worked}
      </span>
      <span className="ml-auto flex items-center gap-2" role="status">
        {progress && (
          <>
            <span>
              {progress.what} · {Math.round(progress.fraction * 100)} %
            </span>
            <span className="h-1 w-24 overflow-hidden rounded-full bg-[var(--line)]">
              <span className="block h-full bg-[var(--accent)]" style={{ width: `${progress.fraction * 100}%` }} />
            </span>
            <button
              type="button"
              onClick={cancel}
              className="rounded border border-[var(--line)] px-1.5 hover:bg-[var(--hover)]"
            >
              Cancel
            </button>
          </>
        )}
      </span>
      <Menu>
        <MenuTrigger aria-label={`Zoom, ${shownScale} %`} className="rounded px-1 hover:bg-[var(--hover)]" data-zoom>
          {shownScale} %
        </MenuTrigger>
        <ZoomMenu viewer={viewer} />
      </Menu>
    </footer>
  )
}
