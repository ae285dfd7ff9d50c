/** Pictures, a studio that has them, and what a project looks like. */
import { type DecodedPicture } from '@/core/compose/nodes'
import { parseStep } from '@/core/formats/recipe'
import { picturePyramid } from '@/core/raster/levels'
import { isOpaque, type Picture } from '@/core/raster/picture'
import { projectOf } from '@/document/edits'
import { EMPTY_HISTORY, perform, type Edit } from '@/document/history'
import { type Project } from '@/document/records'
import { Studio } from '@/engine/studio'

export const WIDTH = 320,
  HEIGHT = 200
export const OTTER = 'a'.repeat(64),
  QUAY = 'b'.repeat(64),
  SOFT = 'c'.repeat(64)
export const drawn = (seed: number, alpha: (x: number, y: number) => number = () => 255): Picture => {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 4)
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i += 4)
      data.set([(x * 3 + seed * 50) % 256, (y * 5 + seed * 90) % 256, ((x ^ y) * 2 + seed * 30) % 256, alpha(x, y)], i)
  return { width: WIDTH, height: HEIGHT, data }
}
export const files: Record<string, Picture> = {
  [OTTER]: drawn(1),
  [QUAY]: drawn(2),
  [SOFT]: drawn(3, (x) => Math.min(255, x)),
}
export const decoded = new Map<string, DecodedPicture>(
  Object.entries(files).map(([name, picture]) => [
    name,
    { levels: picturePyramid(picture, isOpaque(picture)), opaque: isOpaque(picture) },
  ]),
)
export const studio = new Studio((asset) => {
  const found = decoded.get(asset)
  if (!found) throw new Error('not here')
  return found
}, 1 << 28)

export let n = 0
export const newId = () => `id-${++n}`
export const run = (project: Project, ...edits: Edit[]): Project =>
  edits.reduce(
    (state, edit) => perform(state, EMPTY_HISTORY, 'edit', edit, newId(), '2026-01-01T00:00:00Z')?.project ?? state,
    project,
  )
export const start = projectOf('Page', { asset: OTTER, width: WIDTH, height: HEIGHT, name: 'Otter' }, 'otter')
export const shown = (project: Project) => studio.deliver(project).data
export const ellipse = (values: object = {}) =>
  parseStep({ kind: 'ellipse', id: newId(), x: 60, y: 30, width: 160, height: 120, ...values })
export const canvas = { width: WIDTH, height: HEIGHT }
export const red = { kind: 'colour', colour: '#cc2211' } as const
export const at = (data: Uint8ClampedArray, x: number, y: number) => [
  ...data.subarray((y * WIDTH + x) * 4, (y * WIDTH + x) * 4 + 4),
]
export const worst = (a: Uint8ClampedArray, b: Uint8ClampedArray) =>
  a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i])), 0)
