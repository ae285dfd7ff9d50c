/** Where files live that are not rows: below WILY_DATA, content-addressed, written beside their place and moved there whole. */
import { mkdir } from 'node:fs/promises'
import { join, resolve } from 'node:path'

export const dataFolder = (): string => resolve(/* turbopackIgnore: true */ process.env.WILY_DATA ?? '.data')
export const assetFile = (sha256: string): string => join(dataFolder(), 'pictures', sha256.slice(0, 2), sha256)
/** The plain PNG of a picture that a browser would show differently. */
export const convertedFile = (sha256: string): string => `${assetFile(sha256)}.plain.png`
export const thumbnailFile = (sha256: string): string => `${assetFile(sha256)}.small.webp`
/** Everything there may be of a picture. */
export const filesOfAsset = (sha256: string): string[] => [
  assetFile(sha256),
  convertedFile(sha256),
  thumbnailFile(sha256),
]
/** What took long to find in a project. */
export const resultFile = (project: string, name: string): string => join(dataFolder(), 'results', project, name)
export const exportFile = (job: string): string => join(dataFolder(), 'exports', job)

export async function folder(...parts: string[]): Promise<string> {
  const path = join(/* turbopackIgnore: true */ dataFolder(), ...parts)
  await mkdir(path, { recursive: true, mode: 0o700 })
  return path
}
