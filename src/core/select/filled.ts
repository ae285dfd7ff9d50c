import { emptyMatte, type Matte, type Size } from '../raster/picture'
import { fillPolygons, type FillRule, type Point } from '../vector/fill'
import { type Context, type Found } from './finder'

/** What outlines enclose, in memory that is used again for the next one: while a handle is dragged, fresh memory for each answer would cost more than the fill. */
export function filled(
  size: Size,
  outlines: readonly (readonly Point[])[],
  rule: FillRule,
  antialias: boolean,
  { memory }: Context,
): Found {
  const key = `filled ${size.width}×${size.height}`
  let matte = memory.get<Matte>(key)
  if (matte) matte.data.fill(0)
  else memory.set(key, (matte = emptyMatte(size)), matte.data.byteLength)
  return { ...fillPolygons(size, outlines, rule, antialias, matte), passing: 'slow' }
}
