/** Long work that threads share, for one crew or another. */
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type DecodedPicture, type Node } from '@/core/compose/nodes'
import { foregroundColours } from '@/core/edge/foregroundColours'
import { alone, type Crew } from '@/core/parallel/crew'
import { translation } from '@/core/raster/affine'
import { picturePyramid } from '@/core/raster/levels'
import { type Matte, type Picture } from '@/core/raster/picture'
import { edge } from '@/core/select/modifiers/edge'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { drawInParts, drawWholePictures } from '@/engine/drawInParts'

const inShared = (bytes: number) => new SharedArrayBuffer(bytes)

/** In memory that threads share. */
export interface Shown {
  /** 12 megapixels */ readonly photo: Picture
  /** A hard matte of the same size. */ readonly subject: Matte
  /** The same, as it truly is. */ readonly soft: Matte
}

/** What is to be done, by name. */
export function sharedWork({ photo, subject, soft }: Shown): [name: string, by: (crew: Crew) => () => unknown][] {
  const decoded: DecodedPicture = { levels: picturePyramid(photo, true, inShared), opaque: true },
    scene = sceneOf(photo)
  const layers: Node[] = Array.from({ length: 20 }, (_, i) => ({
    kind: 'picture',
    picture: decoded,
    toCanvas: translation(10 * i, 6 * i),
    opacity: i ? 0.7 : 1,
    blend: i % 3 === 2 ? 'soft-light' : 'normal',
    key: `layer ${i}`,
  }))
  const disc: Node[] = [
    layers[0],
    {
      kind: 'adjust',
      adjustment: parseAdjustment({ kind: 'discBlur', radius: 40 }),
      opacity: 1,
      key: 'disc',
    },
  ]
  const canvas = { width: photo.width, height: photo.height }
  const drawn = (nodes: Node[], crew: Crew) => () =>
    drawInParts(
      drawWholePictures,
      { nodes, canvas, data: new Uint8ClampedArray(crew.allocate(photo.data.length)), stored: null },
      crew,
      () => {},
    )
  const solved = (crew?: Crew) => () =>
    edge.modify(
      { ...subject, data: subject.data.slice() },
      { reach: 12, follow: true, smooth: 0, feather: 0, crispness: 0, offset: 0, solver: 'auto', strokes: [] },
      { ...plainContext(1 << 20), crew },
      scene,
    )
  const cleaned = (crew?: Crew) => () => foregroundColours(photo, soft, { amount: 1 }, undefined, crew)
  return [
    ['edge step', (crew) => solved(crew === alone ? undefined : crew)],
    ['fringe colours', (crew) => cleaned(crew === alone ? undefined : crew)],
    ['twenty layers, exported', (crew) => drawn(layers, crew)],
    ['disc blur of 40 px', (crew) => drawn(disc, crew)],
  ]
}
