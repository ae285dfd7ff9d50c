'use client'
import { Check } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { type Viewer } from '@/ui/canvas/viewer'
import { keyHint } from '@/ui/store/ownKeys'
import { set, useBench } from '@/ui/store/bench'

const SCALES = [0.25, 0.5, 1, 2, 4, 8] as const

/** What hangs at the zoom in the status line. */
export function ZoomMenu({ viewer }: { viewer: () => Viewer | null }) {
  const rulers = useBench((state) => state.rulers),
    overview = useBench((state) => state.overview)
  const item = (name: string, key: string, run: () => void) => (
    <DropdownMenu.Item className="menu-item flex justify-between gap-6" onSelect={run}>
      {name}
      <kbd className="font-mono text-[11px] text-[var(--muted)]">{key}</kbd>
    </DropdownMenu.Item>
  )
  const toggle = (name: string, on: boolean, change: (on: boolean) => void) => (
    <DropdownMenu.CheckboxItem className="menu-item flex justify-between gap-6" checked={on} onCheckedChange={change}>
      {name}
      <DropdownMenu.ItemIndicator>
        <Check size={14} />
      </DropdownMenu.ItemIndicator>
    </DropdownMenu.CheckboxItem>
  )
  return (
    <DropdownMenu.Portal>
      <DropdownMenu.Content className="menu" align="end" sideOffset={4} collisionPadding={8}>
        {item('Fit the picture', keyHint('fit', '0'), () => viewer()?.fit())}
        {SCALES.map((scale) => (
          <DropdownMenu.Item
            key={scale}
            className="menu-item flex justify-between gap-6"
            onSelect={() => viewer()?.zoomTo(scale)}
          >
            {scale * 100} %
            {scale === 1 && (
              <kbd className="font-mono text-[11px] text-[var(--muted)]">{keyHint('actual', 'Shift+0')}</kbd>
            )}
          </DropdownMenu.Item>
        ))}
        {item('Zoom in', keyHint('zoomIn', '+'), () => viewer()?.zoomBy(1.4))}
        {item('Zoom out', keyHint('zoomOut', '-'), () => viewer()?.zoomBy(1 / 1.4))}
        <DropdownMenu.Separator className="my-1 h-px bg-[var(--line)]" />
        {toggle('Rulers', rulers, (on) => set({ rulers: on }))}
        {toggle('The whole picture, while zoomed in', overview, (on) => set({ overview: on }))}
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  )
}
