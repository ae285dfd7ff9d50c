/** New layers, as records. */
import { type AdjustmentRecord } from '@/core/compose/adjustments/registry'
import { type Fill } from '@/core/compose/fill'
import { type Affine, IDENTITY } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import {
  type AdjustLayer,
  type FillLayer,
  type GroupLayer,
  type PaintLayer,
  type Picture,
  type PictureLayer,
} from './records'

const COMMON = { placement: IDENTITY, opacity: 1, visible: true, mask: null } as const
export const layerOf = (picture: Picture, id: string, placement: Affine): PictureLayer => ({
  ...COMMON,
  id,
  kind: 'picture',
  name: picture.name,
  asset: picture.asset,
  width: picture.width,
  height: picture.height,
  placement,
})
export const fillLayer = (id: string, name: string, { width, height }: Size, fill: Fill): FillLayer => ({
  ...COMMON,
  id,
  kind: 'fill',
  name,
  width,
  height,
  fill,
})
export const paintLayer = (id: string, name: string, { width, height }: Size): PaintLayer => ({
  ...COMMON,
  id,
  kind: 'paint',
  name,
  width,
  height,
  items: [],
})
export const adjustLayer = (
  id: string,
  name: string,
  { width, height }: Size,
  adjustment: AdjustmentRecord,
): AdjustLayer => ({ ...COMMON, id, kind: 'adjust', name, width, height, adjustment })
/** The same, of values that were measured. */
export const measuredLayer = (id: string, name: string, size: Size, measured: AdjustmentRecord): AdjustLayer => ({
  ...adjustLayer(id, name, size, measured),
  measured,
})
export const groupOf = (id: string, name: string, { width, height }: Size, passThrough: boolean): GroupLayer => ({
  ...COMMON,
  id,
  kind: 'group',
  name,
  width,
  height,
  passThrough,
})
