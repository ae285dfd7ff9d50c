'use client'
import { ImagePlus, Images } from 'lucide-react'
import { useState } from 'react'
import { layerById } from '@/document/edits'
import { type PictureLayer } from '@/document/records'
import { LibraryDialog } from '@/ui/library/LibraryDialog'
import { Button } from '@/ui/primitives/Button'
import { chooseLayer, shownProject, useBench } from '@/ui/store/bench'
import { choosePictures } from '@/ui/store/addPictures'

/** The pictures of the project as they are, where each is shown, and more of them. */
export function GatherPanel() {
  const [library, setLibrary] = useState(false)
  const project = useBench(shownProject)
  const active = project ? layerById(project, project.activeLayer) : undefined
  const shown = new Map<string, PictureLayer[]>()
  for (const layer of project?.layers ?? [])
    if (layer.kind === 'picture') shown.set(layer.asset, [...(shown.get(layer.asset) ?? []), layer])
  return (
    <>
      <div className="mb-3 grid gap-2">
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
        <Button onClick={() => setLibrary(true)}>
          <Images size={15} />
          From the library …
        </Button>
      </div>
      {library && <LibraryDialog close={() => setLibrary(false)} />}
      <h2 className="mb-2 px-1 text-xs text-[var(--muted)]">Pictures of this project</h2>
      <ul className="mb-3 space-y-2">
        {[...shown].map(([asset, layers]) => {
          const [{ name, width, height }] = layers,
            megapixels = (width * height) / 1e6
          return (
            <li
              key={asset}
              className="overflow-hidden rounded-lg border border-[var(--line)] has-[[aria-current=true]]:border-[var(--line-strong)] has-[[aria-current=true]]:bg-[var(--chosen)]"
            >
              <button
                type="button"
                aria-current={layers.some(({ id }) => id === active?.id)}
                aria-label={`Work on ${name}`}
                onClick={() => chooseLayer(layers.at(-1)!.id)}
                className="block w-full text-left text-[13px] hover:bg-[var(--hover)]"
              >
                <img
                  src={`/api/pictures/${asset}/thumbnail`}
                  alt=""
                  loading="lazy"
                  className="h-20 w-full bg-[#8a8a8a] object-contain"
                />
                <span className="block px-2.5 py-1.5">
                  <b className="block truncate">{name}</b>
                  <span className="text-xs text-[var(--muted)]">
                    {width} × {height} px · {megapixels.toFixed(megapixels < 10 ? 1 : 0)} MP
                    {layers.length > 1 ? ` · in ${layers.length} layers` : ''}
                  </span>
                </span>
              </button>
            </li>
          )
        })}
      </ul>
      <p className="note mt-3">
        <b>Gather</b> — add pictures here, paste one, or drop them anywhere: on the canvas&rsquo;s upper half they go on
        top, on its lower half below the active layer.
      </p>
    </>
  )
}
