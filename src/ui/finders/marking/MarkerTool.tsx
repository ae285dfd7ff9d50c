import { Slider } from '@/ui/primitives/Slider'
import { set, useBench } from '@/ui/store/bench'
import { initialTool } from '@/ui/store/rooms/tool'

/** The size of what is marked with, below the finders. */
export function MarkerSize() {
  const marker = useBench((state) => state.marker)
  const change = (size: number) => set({ marker: { ...marker, size } })
  return (
    <Slider
      label="Size"
      value={marker.size}
      min={1}
      max={1000}
      step={1}
      unit="px"
      curve={2.5}
      fallback={initialTool.marker.size}
      onPreview={change}
      onSettle={change}
    />
  )
}
