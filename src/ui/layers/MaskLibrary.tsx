'use client'
import { sentenceOf } from '@/core/fields/sentenceOf'
import { keepable } from '@/document/limits'
import { Trash2 } from 'lucide-react'
import { useEffect } from 'react'
import { toast } from 'sonner'
import { type Layer } from '@/document/records'
import { askEngine } from '@/ui/store/rendering'
import { loadLibrary, putInLibrary, takeOutOfLibrary, useLibrary } from '@/ui/store/library'
import { sendPicture } from '@/ui/store/server'
import { choosePictureFiles, nameOfFile, sendWithProgress, tell } from '@/ui/store/addPictures'
import { maskFromPicture, openMask } from './maskActions'
import { counted } from '@/ui/primitives/counted'
import { MenuItem, MenuLine } from '@/ui/primitives/Menu'

/** Mask pictures to choose from, the same in every project. */
export function MaskLibraryItems({ layer }: { layer: Layer }) {
  const masks = useLibrary((state) => state.pictures.mask),
    problem = useLibrary((state) => state.problem)
  useEffect(() => void loadLibrary('mask'), [])
  return (
    <>
      {problem && <p className="px-2 py-1 text-xs text-[var(--error)]">{problem}</p>}
      {!masks && !problem && <p className="px-2 py-1 text-xs text-[var(--muted)]">Looking …</p>}
      {masks?.map((mask) => {
        const { asset, name } = mask
        return (
          <div key={asset} className="flex items-center">
            <MenuItem className="flex flex-1 items-center gap-2.5" onSelect={() => maskFromPicture(layer, asset, name)}>
              <img
                src={`/api/pictures/${asset}`}
                alt=""
                width={54}
                height={36}
                loading="lazy"
                className="h-9 w-[54px] rounded-[3px] bg-black object-contain"
              />
              {name}
            </MenuItem>
            <button
              type="button"
              aria-label={`Remove ${name} from the library`}
              title="Remove from the library; masks made of it keep it"
              onClick={() => void takeOutOfLibrary('mask', [mask])}
              className="grid size-7 shrink-0 place-items-center rounded-md text-[var(--muted)] hover:bg-[var(--hover)]"
            >
              <Trash2 size={13} />
            </button>
          </div>
        )
      })}
      <MenuLine />
      <MenuItem onSelect={importMasks}>Put pictures into the library …</MenuItem>
    </>
  )
}

/** As many files as are chosen; each that is refused says why, the others go on. */
const importMasks = (): void =>
  choosePictureFiles('mask-library', true, async (files) => {
    let kept = 0
    for (const file of files)
      try {
        const { asset } = await sendWithProgress(file)
        await putInLibrary('mask', asset, { name: nameOfFile(file) })
        kept++
      } catch (error) {
        tell(error)
      }
    if (kept) toast.success(`${counted(kept, 'picture')} put into the mask library.`)
  })

/** The layer's mask, as its steps make it, under the layer's name. */
export async function keepInLibrary(layer: Layer): Promise<void> {
  openMask(layer.id)
  try {
    const png = await askEngine((engine, request) => engine.mattePng(request))
    if (!png) return
    const { asset } = await sendPicture(
      new File([png], `${layer.name} mask.png`, { type: 'image/png' }),
      () => {},
      new AbortController().signal,
    )
    await putInLibrary('mask', asset, { name: keepable(`${layer.name} mask`) })
    toast.success(`The mask of ${layer.name} is in the library.`)
  } catch (error) {
    toast.error(`The mask could not be kept: ${sentenceOf(error)}`)
  }
}
