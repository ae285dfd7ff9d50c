import { opacity as opacityStep } from '../../steps/modifiers/opacity'
import { type Modifier } from '../finder'

/** Coverage times `by` (0-1). */
export const opacity: Modifier<'opacity', { by: number }> = {
  ...opacityStep,
  modify(matte, { by }) {
    const scaled = Uint8Array.from({ length: 256 }, (_, v) => Math.round(v * by))
    for (let i = 0; i < matte.data.length; i++) matte.data[i] = scaled[matte.data[i]]
    return matte
  },
}
