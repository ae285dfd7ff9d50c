/**
 * Where a matte's 50 % contour crosses a grid of view pixels: the pixels of the line that marches around a selection.
 * A view pixel lies on the outline when it and its right or lower neighbour are on different sides of 50 %.
 */

/** @param coverage 0-255, width × height, sampled at the view's pixels. Returns indices of the pixels on the inner side of the contour. */
export function outlinePixels(coverage: Uint8Array, width: number, height: number): Uint32Array {
  let out = new Uint32Array(4096),
    count = 0
  const put = (i: number) => {
    if (count === out.length) {
      const larger = new Uint32Array(count * 2)
      larger.set(out)
      out = larger
    }
    out[count++] = i
  }
  // The highest bit of a value says its side; what lies beyond the border is on the same one.
  for (let y = 0, i = 0; y < height; y++) {
    const above = y > 0 ? -width : 0,
      below = y < height - 1 ? width : 0
    for (let x = 0; x < width; x++, i++) {
      const left = x > 0 ? 1 : 0,
        right = x < width - 1 ? 1 : 0
      if (coverage[i] & ~(coverage[i - left] & coverage[i + right] & coverage[i + above] & coverage[i + below]) & 128)
        put(i)
    }
  }
  return out.subarray(0, count)
}
