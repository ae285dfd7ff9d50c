/** The difference of two colours. Source: Sharma, Wu and Dalal, "The CIEDE2000 color-difference formula: implementation notes", Color Research and Application 30 (2005). */
type Lab = readonly [L: number, a: number, b: number]

const DEGREES = 180 / Math.PI,
  P25 = 25 ** 7
const cos = (degrees: number): number => Math.cos(degrees / DEGREES)
const hueOf = (a: number, b: number): number => (a === 0 && b === 0 ? 0 : (Math.atan2(b, a) * DEGREES + 360) % 360)

export function ciede2000([l1, a1, b1]: Lab, [l2, a2, b2]: Lab): number {
  const chroma = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2,
    g = 0.5 * (1 - Math.sqrt(chroma ** 7 / (chroma ** 7 + P25))),
    c1 = Math.hypot(a1 * (1 + g), b1),
    c2 = Math.hypot(a2 * (1 + g), b2),
    h1 = hueOf(a1 * (1 + g), b1),
    h2 = hueOf(a2 * (1 + g), b2),
    grey = c1 * c2 === 0
  let turn = grey ? 0 : h2 - h1
  if (turn > 180) turn -= 360
  else if (turn < -180) turn += 360
  const dHue = 2 * Math.sqrt(c1 * c2) * Math.sin(turn / 2 / DEGREES),
    dL = l2 - l1,
    dC = c2 - c1,
    l = (l1 + l2) / 2,
    c = (c1 + c2) / 2,
    h = grey
      ? h1 + h2
      : Math.abs(h1 - h2) <= 180
        ? (h1 + h2) / 2
        : h1 + h2 < 360
          ? (h1 + h2 + 360) / 2
          : (h1 + h2 - 360) / 2,
    t = 1 - 0.17 * cos(h - 30) + 0.24 * cos(2 * h) + 0.32 * cos(3 * h + 6) - 0.2 * cos(4 * h - 63),
    byL = dL / (1 + (0.015 * (l - 50) ** 2) / Math.sqrt(20 + (l - 50) ** 2)),
    byC = dC / (1 + 0.045 * c),
    byHue = dHue / (1 + 0.015 * c * t),
    turned = -Math.sin((60 * Math.exp(-(((h - 275) / 25) ** 2))) / DEGREES) * 2 * Math.sqrt(c ** 7 / (c ** 7 + P25))
  return Math.sqrt(byL ** 2 + byC ** 2 + byHue ** 2 + turned * byC * byHue)
}
