/** Pictures from folders: chosen, or dropped. */
import { choosePictureFiles, PICTURE_TYPES } from './addPictures'

/** All picture files of a folder, and of those in it. */
export function chooseFolder(purpose: string, take: (files: File[]) => void): void {
  choosePictureFiles(purpose, true, (files) => take(files.filter(isPicture)), true)
}
/** By its type, which the browser takes from its name. */
const isPicture = (file: File): boolean => PICTURE_TYPES.split(',').includes(file.type)

/** What was dropped: pictures, and those in folders. To be asked at once, while the drop is there. */
export const droppedPictures = (dropped: DataTransfer): Promise<File[]> =>
  picturesIn(
    [...dropped.items].map((item) => item.webkitGetAsEntry()),
    [...dropped.files],
  )
/** @param entries @param dropped what was told of a drop while it was there */
export async function picturesIn(entries: readonly (FileSystemEntry | null)[], dropped: File[]): Promise<File[]> {
  if (!entries.some((entry) => entry?.isDirectory)) return dropped
  const files: File[] = []
  for (const entry of entries) if (entry) await filesIn(entry, files)
  // Of a folder only the pictures are meant; a file that was dropped by itself is refused in words where it is none.
  return files.filter((file) => isPicture(file) || entries.some((entry) => entry?.isFile && entry.name === file.name))
}
async function filesIn(entry: FileSystemEntry, files: File[]): Promise<void> {
  if (entry.isFile)
    files.push(await new Promise((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject)))
  if (!entry.isDirectory) return
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  // A reader gives some at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject))
    if (!some.length) return
    for (const each of some) await filesIn(each, files)
  }
}
