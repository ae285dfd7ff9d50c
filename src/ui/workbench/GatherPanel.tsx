'use client'
import { ImagePlus } from 'lucide-react'
import { layerById } from '@/document/edits'
import { Button } from '@/ui/primitives/Button'
import { shownProject, useBench } from '@/ui/store/bench'
import { choosePictures } from '@/ui/store/addPictures'

/** The pictures of the project, and more of them. */
export function GatherPanel() {
  const project = useBench(shownProject)
  const active = project ? layerById(project, project.activeLayer) : undefined
  return (
    <>
      <h2 className="mb-2 px-1 text-xs text-[var(--muted)]">Pictures of this project</h2>
      <ul className="mb-3 space-y-1.5">
        {[
          ...new Map(
            project?.layers.flatMap((layer) => (layer.kind === 'picture' ? [[layer.asset, layer] as const] : [])),
          ).values(),
        ].map((layer) => (
          <li key={layer.asset} className="rounded-lg border border-[var(--line)] p-2 text-[13px]">
            <b className="block truncate">{layer.name}</b>
            <span className="text-xs text-[var(--muted)]">
              {layer.width} × {layer.height} px · {((layer.width * layer.height) / 1e6).toFixed(1)} MP
            </span>
          </li>
        ))}
      </ul>
      <div className="grid gap-2">
        {active && (
          <Button onClick={() => choosePictures(active.id)}>
            <ImagePlus size={15} />
            Add below
          </Button>
        )}
        <Button onClick={() => choosePictures(null)}>
          <ImagePlus size={15} />
          Add on top
        </Button>
      </div>
      <p className="note mt-3">
        <b>Gather</b> — add pictures here, or drop them onto the canvas: on its upper half they go on top, on its lower
        half below the active layer.
      </p>
    </>
  )
}
