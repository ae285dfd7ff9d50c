/** bin/wily as its users call it, in a folder of its own, and pictures and recipes for it. */
import { execFile } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import sharp from 'sharp'

export const run = promisify(execFile)
export const folder = mkdtempSync(join(tmpdir(), 'wily-cli-'))
export const photo = 'demo/pictures/otter-puppet.jpg'
export const recipeFile = (steps: unknown, name = 'recipe.json') => {
  const file = join(folder, name)
  writeFileSync(file, typeof steps === 'string' ? steps : JSON.stringify({ version: 1, steps }))
  return file
}
export const quay = 'demo/pictures/lantern-quay.jpg',
  amber = 'demo/pictures/sky-amber.jpg'
/** A picture of nothing but sky, getting lighter downwards; or of nothing but earth. */
export function plain(what: 'sky' | 'earth', width: number, height: number, channels: 3 | 4 = 3): string {
  const data = Buffer.alloc(width * height * channels, 255)
  for (let i = 0, p = 0; p < width * height; p++, i += channels) {
    const down = Math.floor(p / width) / height,
      clod = (Math.imul(p, 2654435761) >>> 24) / 4
    data[i] = what === 'sky' ? 90 + 80 * down : 40 + clod
    data[i + 1] = what === 'sky' ? 140 + 60 * down : 28 + clod
    data[i + 2] = what === 'sky' ? 215 + 20 * down : 15 + clod / 2
  }
  const file = join(folder, `${what}-${width}-${height}-${channels}.png`)
  pending.push(sharp(data, { raw: { width, height, channels } }).png().toFile(file))
  return file
}
export const pending: Promise<unknown>[] = []
/** A third as wide and high: what is asked here does not hang on the size. */
export function third(picture: string): string {
  const file = join(folder, `third-${picture.split('/').pop()}`)
  pending.push(sharp(picture).resize(600).jpeg({ quality: 95 }).toFile(file))
  return file
}
export const wily = async (...args: string[]) => {
  await Promise.all(pending)
  try {
    await run('bin/wily', args)
    return { code: 0, said: '' }
  } catch (error) {
    const e = error as { code: number; stderr: string }
    return { code: e.code, said: e.stderr.trim() }
  }
}
export const WALL = [
  { kind: 'similarColour', at: [130, 320], tolerance: 34, patch: 5 },
  { kind: 'similarColour', at: [1660, 900], tolerance: 34, patch: 5 },
  { kind: 'similarColour', at: [740, 20], tolerance: 28, patch: 5, contiguous: false },
  { kind: 'invert' },
]
export async function grey(file: string) {
  const { data, info } = await sharp(file).extractChannel(0).raw().toBuffer({ resolveWithObject: true })
  return { data, info }
}
