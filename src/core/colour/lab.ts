/**
 * CIELAB of sRGB colours, D50 white, and the CIE76 colour difference.
 * Sources: CIE 15:2004; matrix sRGB → XYZ D50 (Bradford-adapted) as in CSS Color Module Level 4.
 */
import { LINEAR_OF_BYTE } from './srgb'

export type Lab = [L: number, a: number, b: number]

// Rows divided by the D50 white point [0.9642957, 1, 0.8251046] (x = 0.3457, y = 0.3585), so that white gives 1, 1, 1.
const X = [0.4360657468 / 0.9642956764, 0.3851514688 / 0.9642956764, 0.1430784519 / 0.9642956764]
const Y = [0.2224931757, 0.7168870538, 0.0606197705]
const Z = [0.0139239044 / 0.8251046025, 0.0970812966 / 0.8251046025, 0.7140993567 / 0.8251046025]

const EPSILON = 216 / 24389,
  KAPPA = 24389 / 27
const compress = (t: number): number => (t > EPSILON ? Math.cbrt(t) : (KAPPA * t + 16) / 116)

/** The compressing curve on a fine grid, for one difference after the other: within 0.03 CIELAB units of the exact one. */
const STEPS = 16384
const COMPRESS = Float32Array.from({ length: STEPS + 2 }, (_, i) => compress(i / STEPS))

/** @param red @param green @param blue 0-255. L* 0-100, a* and b* about ±128. */
export function labOf(red: number, green: number, blue: number): Lab {
  const r = LINEAR_OF_BYTE[red],
    g = LINEAR_OF_BYTE[green],
    b = LINEAR_OF_BYTE[blue]
  const x = compress(X[0] * r + X[1] * g + X[2] * b),
    y = compress(Y[0] * r + Y[1] * g + Y[2] * b),
    z = compress(Z[0] * r + Z[1] * g + Z[2] * b)
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)]
}

const table = (rows: readonly number[]): Float32Array[] => rows.map((m) => LINEAR_OF_BYTE.map((v) => v * m * STEPS))

const XS = table(X),
  YS = table(Y),
  ZS = table(Z)

/** CIE76 difference of a picture's pixels to one colour, handed out pixel by pixel. */
export function labDifferenceTo(reference: Lab): (word: number) => number {
  const [xr, xg, xb] = XS,
    [yr, yg, yb] = YS,
    [zr, zg, zb] = ZS
  const [L, A, B] = reference
  return (word) => {
    const r = word & 255,
      g = (word >>> 8) & 255,
      b = (word >>> 16) & 255
    const x = COMPRESS[(xr[r] + xg[g] + xb[b] + 0.5) | 0],
      y = COMPRESS[(yr[r] + yg[g] + yb[b] + 0.5) | 0],
      z = COMPRESS[(zr[r] + zg[g] + zb[b] + 0.5) | 0]
    const dl = 116 * y - 16 - L,
      da = 500 * (x - y) - A,
      db = 200 * (y - z) - B
    return Math.sqrt(dl * dl + da * da + db * db)
  }
}
