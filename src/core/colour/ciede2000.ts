import { type Lab } from './lab'

const RADIANS = Math.PI / 180
const P25_7 = 25 ** 7

/** CIEDE2000 colour difference of two CIELAB colours. Source: Sharma, Wu and Dalal, "The CIEDE2000 color-difference formula", Color Research and Application 30 (2005). */
export function ciede2000([L1, a1, b1]: Lab, [L2, a2, b2]: Lab): number {
  const meanC = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2
  const G = 0.5 * (1 - Math.sqrt(meanC ** 7 / (meanC ** 7 + P25_7)))
  const A1 = (1 + G) * a1,
    A2 = (1 + G) * a2
  const C1 = Math.hypot(A1, b1),
    C2 = Math.hypot(A2, b2)
  const hue = (b: number, a: number) => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) / RADIANS + 360) % 360)
  const h1 = hue(b1, A1),
    h2 = hue(b2, A2)
  const grey = C1 * C2 === 0
  let dh = grey ? 0 : h2 - h1
  if (dh > 180) dh -= 360
  else if (dh < -180) dh += 360
  const dL = L2 - L1,
    dC = C2 - C1,
    dH = 2 * Math.sqrt(C1 * C2) * Math.sin((dh / 2) * RADIANS)
  const L = (L1 + L2) / 2,
    C = (C1 + C2) / 2
  const h = grey
    ? h1 + h2
    : Math.abs(h1 - h2) <= 180
      ? (h1 + h2) / 2
      : h1 + h2 < 360
        ? (h1 + h2 + 360) / 2
        : (h1 + h2 - 360) / 2
  const T =
    1 -
    0.17 * Math.cos((h - 30) * RADIANS) +
    0.24 * Math.cos(2 * h * RADIANS) +
    0.32 * Math.cos((3 * h + 6) * RADIANS) -
    0.2 * Math.cos((4 * h - 63) * RADIANS)
  const SL = 1 + (0.015 * (L - 50) ** 2) / Math.sqrt(20 + (L - 50) ** 2),
    SC = 1 + 0.045 * C,
    SH = 1 + 0.015 * C * T
  const RT = -Math.sin(2 * 30 * Math.exp(-(((h - 275) / 25) ** 2)) * RADIANS) * 2 * Math.sqrt(C ** 7 / (C ** 7 + P25_7))
  return Math.sqrt((dL / SL) ** 2 + (dC / SC) ** 2 + (dH / SH) ** 2 + RT * (dC / SC) * (dH / SH))
}
