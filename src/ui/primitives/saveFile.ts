/** Offers a file to be saved. @param content what it holds, or the address it is fetched from */
export function saveFile(name: string, content: Blob | string): void {
  const link = document.createElement('a')
  link.href = typeof content === 'string' ? content : URL.createObjectURL(content)
  link.download = name
  link.click()
  // The browser has begun to read it by then; to any other address it makes no difference.
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}
export const saveJson = (name: string, json: unknown): void =>
  saveFile(name, new Blob([JSON.stringify(json, null, 1)], { type: 'application/json' }))
