import { compose, translation } from '@/core/raster/affine'
import { changeLayer } from '@/document/edits'
import { type Layer } from '@/document/types'
import { type Drag } from '@/ui/finders/finder'
import { preview, settle } from '@/ui/store/bench'

/** Drags the active layer. With Shift it keeps to the horizontal or vertical. */
export function pressLayer(layer: Layer, from: readonly [number, number]): Drag {
  let moved = false
  return {
    move([x, y], { shift }) {
      let dx = x - from[0], dy = y - from[1]
      if (shift) { if (Math.abs(dx) > Math.abs(dy)) dy = 0; else dx = 0 }
      moved = true
      // Whole pixels: a picture that is only moved stays as sharp as it came.
      preview(changeLayer(layer.id, { placement: compose(translation(Math.round(dx), Math.round(dy)), layer.placement) }))
    },
    end() { if (moved) settle(`Move ${layer.name}`) },
  }
}
