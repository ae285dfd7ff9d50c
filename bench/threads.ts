/** Long work by two threads beside the same by one: the second is a helper as exports have it. */
import { MessageChannel, Worker } from 'node:worker_threads'
import { parseAdjustment } from '@/core/compose/adjustments/registry'
import { type DecodedPicture, type Node } from '@/core/compose/nodes'
import { foregroundColours } from '@/core/edge/foregroundColours'
import { alone, type Crew } from '@/core/parallel/crew'
import { crewOf } from '@/core/parallel/threads'
import { translation } from '@/core/raster/affine'
import { picturePyramid } from '@/core/raster/levels'
import { type Matte, type Picture } from '@/core/raster/picture'
import { edge } from '@/core/select/modifiers/edge'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { drawInParts, drawWholePictures } from '@/engine/drawInParts'
import { type Row } from './row'

const { port1, port2 } = new MessageChannel()
const helper = new Worker('./dist/helper.mjs', { workerData: { port: port2 }, transferList: [port2] })
await new Promise((ready) => helper.once('online', ready))
helper.unref()
port1.unref()
const two = crewOf([port1])
const inShared = (bytes: number) => new SharedArrayBuffer(bytes)

/** @param photo 12 megapixels @param subject a hard matte of the same size @param soft the same, as it truly is */
export function threadRows(photo: Picture, subject: Matte, soft: Matte): Row[] {
  const data = new Uint8ClampedArray(inShared(photo.data.length))
  data.set(photo.data)
  const decoded: DecodedPicture = { levels: picturePyramid({ ...photo, data }, true, inShared), opaque: true },
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
  const row = (name: string, by: (crew: Crew) => () => unknown): Row => [
    `${name}, two threads`,
    1 / 1.7,
    by(two),
    'one thread, edge',
    by(alone),
  ]
  return [
    row('edge step', (crew) => solved(crew === alone ? undefined : crew)),
    row('fringe colours', (crew) => cleaned(crew === alone ? undefined : crew)),
    row('twenty layers, exported', (crew) => drawn(layers, crew)),
    row('disc blur of 40 px', (crew) => drawn(disc, crew)),
  ]
}
