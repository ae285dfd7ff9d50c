import { smooth as smoothStep } from '../../steps/modifiers/smooth'
import { gaussianBlur } from '../../raster/gaussian'
import { type Modifier } from '../finder'

/**
 * Rounds off what is smaller than `radius` px along the edge: blurred with a sigma of radius/2, then made as crisp again as an
 * anti-aliased edge is (a blurred straight edge rises by 1/(σ√2π) a pixel, so that is multiplied back).
 */
export const smooth: Modifier<'smooth', { radius: number }> = {
  ...smoothStep,
  modify(matte, { radius }) {
    if (radius === 0) return matte
    const blurred = gaussianBlur(matte, radius / 2)
    const steep = Math.max(1, (radius / 2) * Math.sqrt(2 * Math.PI))
    const crisp = Uint8Array.from({ length: 256 }, (_, v) =>
      Math.max(0, Math.min(255, Math.round((v - 127.5) * steep + 127.5))),
    )
    for (let i = 0; i < blurred.data.length; i++) blurred.data[i] = crisp[blurred.data[i]]
    return blurred
  },
}
