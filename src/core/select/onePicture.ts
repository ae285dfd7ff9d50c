/** A scene over one picture, for tests and the command line's single photo. */
import { type Picture } from '../raster/picture'
import { type Context, type Scene } from './finder'
import { LruCache } from '../cache/lruCache'

/** @param images pictures that steps name */
export const sceneOf = (picture: Picture, name = 'picture', images?: ReadonlyMap<string, Picture>): Scene => ({
  ...(images ? { image: (asset: string) => images.get(asset) } : {}),
  width: picture.width,
  height: picture.height,
  picture: () => picture,
  identity: () => name,
})

/** A context that is never cancelled and keeps up to `bytes` of results. */
export const plainContext = (bytes = 1 << 30): Context => ({ memory: new LruCache(bytes), check: () => {} })
