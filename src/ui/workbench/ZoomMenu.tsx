'use client'
import { type Viewer } from '@/ui/canvas/viewer'
import { keyHint } from '@/ui/store/ownKeys'
import { set, useBench } from '@/ui/store/bench'
import { MenuCheck, MenuItem, MenuLine, MenuSheet } from '@/ui/primitives/Menu'

const SCALES = [0.25, 0.5, 1, 2, 4, 8] as const

/** What hangs at the zoom in the status line. */
export function ZoomMenu({ viewer }: { viewer: () => Viewer | null }) {
  const rulers = useBench((state) => state.rulers),
    overview = useBench((state) => state.overview)
  const item = (name: string, key: string, run: () => void) => (
    <MenuItem keys={key} onSelect={run}>
      {name}
    </MenuItem>
  )
  const toggle = (name: string, on: boolean, change: (on: boolean) => void) => (
    <MenuCheck checked={on} onCheckedChange={change}>
      {name}
    </MenuCheck>
  )
  return (
    <MenuSheet align="end">
      {item('Fit the picture', keyHint('fit', '0'), () => viewer()?.fit())}
      {SCALES.map((scale) => (
        <MenuItem
          key={scale}
          keys={scale === 1 ? keyHint('actual', 'Shift+0') : ''}
          onSelect={() => viewer()?.zoomTo(scale)}
        >
          {scale * 100} %
        </MenuItem>
      ))}
      {item('Zoom in', keyHint('zoomIn', '+'), () => viewer()?.zoomBy(1.4))}
      {item('Zoom out', keyHint('zoomOut', '-'), () => viewer()?.zoomBy(1 / 1.4))}
      <MenuLine />
      {toggle('Rulers', rulers, (on) => set({ rulers: on }))}
      {toggle('The whole picture, while zoomed in', overview, (on) => set({ overview: on }))}
    </MenuSheet>
  )
}
