/** A picture with a known answer: a folder with photo.jpg, alpha.png, trimap.png and meta.json (what it is, and hints as a hurried hand gives them). */
import { existsSync, readFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import sharp from 'sharp'
import { type Matte, type Picture } from '@/core/raster/picture'
import { readPicture } from '@/server/pictures/read'

type Place = readonly [x: number, y: number]

export interface TruthScene {
  readonly name: string
  readonly family: string
  /** 'multi': several alike, one is wanted. Begins with 'sky' where the sky is the answer. */ readonly kind: string
  readonly photo: Picture
  /** Coverage of what is wanted. */ readonly truth: Matte
  /** 0 outside, 255 inside, else unknown. */ readonly trimap: Matte | null
  readonly hints: {
    readonly inside: readonly Place[]
    readonly outside: readonly Place[]
    readonly roughBox: readonly [number, number, number, number]
    /** On the outline, in order; missing where it has none that can be followed. */ readonly anchors?: readonly Place[]
  }
}

export const isScene = (folder: string) => existsSync(join(folder, 'meta.json'))

export async function readScene(folder: string): Promise<TruthScene> {
  const meta = JSON.parse(readFileSync(join(folder, 'meta.json'), 'utf8')) as Pick<TruthScene, 'kind' | 'hints'> & {
    family?: string
  }
  const name = basename(folder),
    trimap = join(folder, 'trimap.png')
  return {
    name,
    family: meta.family ?? meta.kind,
    kind: meta.kind,
    photo: await readPicture(join(folder, 'photo.jpg'), name),
    truth: await grey(join(folder, 'alpha.png')),
    trimap: existsSync(trimap) ? await grey(trimap) : null,
    hints: meta.hints,
  }
}

async function grey(file: string): Promise<Matte> {
  const { data, info } = await sharp(file)
    .toColourspace('b-w')
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true })
  return { width: info.width, height: info.height, data: new Uint8Array(data) }
}
