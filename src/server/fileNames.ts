/** Names of things as names of files. */

/** A file name of a given one: no slashes, no dots in front, nothing a file system minds. */
export const plainName = (name: string): string =>
  name
    .replace(/[^\p{L}\p{N}\p{M} ._-]+/gu, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[.\s]+|[.\s]+$/g, '')
    .slice(0, 80) || 'picture'

/** File names of one folder: two of one name get a number behind. */
export function namesInFolder(): (name: string, extension: string) => string {
  const taken = new Set<string>()
  return (name, extension) => {
    const plain = plainName(name)
    let free = `${plain}.${extension}`
    for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${plain} ${n}.${extension}`
    taken.add(free.toLowerCase())
    return free
  }
}
