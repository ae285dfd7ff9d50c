/** Pictures into the open project: chosen or dropped, sent with progress, laid in as layers. Each that is refused says why; the others go on. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { toast } from 'sonner'
import { fileTitle } from '@/document/fileTitle'
import { loadLater } from '@/ui/primitives/later'
import { get } from '@/ui/store/bench'
import { Refused, sendPicture, Unreachable } from '@/ui/store/server'

export const PICTURE_TYPES = 'image/jpeg,image/png,image/webp,image/tiff,image/avif,image/gif'
export const nameOfFile = (file: File): string => fileTitle(file.name)

/** Asks for picture files. @param purpose a name for who asks, in the page */
export function choosePictureFiles(
  purpose: string,
  several: boolean,
  take: (files: File[]) => void,
  folder = false,
): void {
  const input = document.createElement('input')
  input.type = 'file'
  input.accept = PICTURE_TYPES
  input.multiple = several
  input.webkitdirectory = folder
  input.dataset.purpose = purpose
  input.hidden = true
  input.onchange = () => {
    take([...(input.files ?? [])])
    input.remove()
  }
  input.oncancel = () => input.remove()
  document.body.append(input) // attached, so that a browser may not throw it away before the answer
  input.click()
}
/** @param below the layer they go below; null: on top */
export const choosePictures = (below: string | null): void =>
  choosePictureFiles('add-pictures', true, (files) => addPictures(files, below))

const sending = loadLater(() => import('./addLayers'))
/** @param below the layer they go below; null: on top */
export function addPictures(files: readonly File[], below: string | null): void {
  const { id } = get()
  void sending().then(({ addLayers }) => addLayers(files, id, below))
}

/** One sentence about a picture that did not come in. */
export function tell(error: unknown): void {
  if (error instanceof DOMException && error.name === 'AbortError') return
  if (error instanceof Refused || error instanceof Unreachable) toast.error(error.message, { duration: 12_000 })
  else
    toast.error(`The picture could not be added: ${sentenceOf(error)}`, {
      duration: 12_000,
    })
}

/** Sends a file; after a moment a note shows how far it is and can cancel it. */
export async function sendWithProgress(file: File) {
  const cancel = new AbortController()
  const id = `send ${crypto.randomUUID()}`
  const show = (fraction: number) =>
    toast.loading(
      fraction < 1
        ? `Sending ${file.name} · ${Math.round(fraction * 100)} %`
        : `Checking ${file.name}; pictures are looked at two at a time …`,
      {
        id,
        duration: Infinity,
        action: { label: 'Cancel', onClick: () => cancel.abort() },
      },
    )
  let fraction = 0
  const later = setTimeout(() => show(fraction), 300)
  try {
    return await sendPicture(
      file,
      (next) => {
        fraction = next
        if (toast.getToasts().some((t) => t.id === id)) show(next)
      },
      cancel.signal,
    )
  } finally {
    clearTimeout(later)
    toast.dismiss(id)
  }
}
