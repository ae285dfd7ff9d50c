/**
 * A picture at another size, by Lanczos' windowed sinc of three lobes; reducing widens it by the ratio. Colour is weighed by alpha.
 * Source: Duchon, "Lanczos Filtering in One and Two Dimensions", J. Appl. Meteorology 18 (1979); widening for reduction is common practice.
 */
import { KernelStack } from '../kernels'
import { packDeepRow, unpackDeepRow } from './deepRows'
import { type DeepPicture, type Picture, type Size } from './picture'

const LOBES = 3
const PIXEL_BYTES = 16

const sinc = (x: number): number => (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x))
const lanczos = (x: number): number => (Math.abs(x) < LOBES ? sinc(x) * sinc(x / LOBES) : 0)

/** For each target pixel where its taps start, and their weights (their sum 1); beyond the ends the outermost pixels count for what lies outside. */
function taps(from: number, to: number): { starts: Int32Array; weights: Float32Array; count: number } {
  const ratio = from / to,
    widen = Math.max(1, ratio),
    reach = LOBES * widen,
    count = Math.min(from, Math.ceil(2 * reach) + 1)
  const starts = new Int32Array(to),
    weights = new Float32Array(to * count)
  for (let i = 0; i < to; i++) {
    const middle = (i + 0.5) * ratio - 0.5,
      start = Math.max(0, Math.min(from - count, Math.ceil(middle - reach)))
    starts[i] = start
    let sum = 0
    for (let k = Math.ceil(middle - reach); k <= Math.floor(middle + reach); k++) {
      const weight = lanczos((k - middle) / widen),
        at = Math.min(from - 1, Math.max(0, k)) - start
      if (at >= 0 && at < count) {
        weights[i * count + at] += weight
        sum += weight
      }
    }
    for (let k = 0; k < count; k++) weights[i * count + k] /= sum
  }
  return { starts, weights, count }
}

let stack: KernelStack | undefined

/** Sizes are whole px, 1 or more. Throws RangeError for others. @param check is called now and then with the progress (0-1) */
export function resize<P extends Picture | DeepPicture>(
  picture: P,
  { width, height }: Size,
  opaque = false,
  check: (progress: number) => void = () => {},
): P {
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1)
    throw new RangeError(`A picture is resized to whole pixels, not to ${width} × ${height}.`)
  const from = picture.data,
    data = from instanceof Uint16Array ? new Uint16Array(width * height * 4) : new Uint8ClampedArray(width * height * 4)
  stack ??= new KernelStack()
  const across = taps(picture.width, width),
    down = taps(picture.height, height),
    rowBytes = width * PIXEL_BYTES
  const base = stack.take(0)
  const bytes = stack.take(Math.max(picture.width, width) * 4),
    source = stack.take(picture.width * PIXEL_BYTES),
    ring = stack.take(down.count * rowBytes),
    out = stack.take(rowBytes)
  const starts = stack.take(width * 4),
    weights = stack.take(across.weights.byteLength),
    places = stack.take(down.count * 4),
    shares = stack.take(down.count * 4)
  new Int32Array(stack.bytes(starts, width * 4).buffer, starts, width).set(across.starts)
  stack.floats(weights, across.weights.length).set(across.weights)
  const sourceBytes = stack.bytes(bytes, picture.width * 4),
    outBytes = stack.bytes(bytes, width * 4),
    rowPlaces = new Uint32Array(stack.bytes(places, down.count * 4).buffer, places, down.count),
    rowShares = stack.floats(shares, down.count)
  const { run } = stack
  let done = 0 // rows that went into the ring
  for (let y = 0; y < height; y++) {
    if (y % 64 === 0) check(y / height)
    const first = down.starts[y]
    for (done = Math.max(done, first); done < first + down.count; done++) {
      const row = from.subarray(done * picture.width * 4, (done + 1) * picture.width * 4)
      if (row instanceof Uint16Array) unpackDeepRow(row, stack.floats(source, row.length))
      else {
        sourceBytes.set(row)
        run.unpackRow(bytes, source, picture.width, opaque, 0)
      }
      run.weighSpans(source, ring + (done % down.count) * rowBytes, width, starts, weights, across.count)
    }
    for (let k = 0; k < down.count; k++) rowPlaces[k] = ring + ((first + k) % down.count) * rowBytes
    rowShares.set(down.weights.subarray(y * down.count, (y + 1) * down.count))
    run.weighRows(places, out, width, shares, down.count)
    run.settleRow(out, width)
    const row = data.subarray(y * width * 4, (y + 1) * width * 4)
    if (row instanceof Uint16Array) packDeepRow(stack.floats(out, row.length), row)
    else {
      run.packRow(out, bytes, width, 0, 0)
      row.set(outBytes)
    }
  }
  stack.release(base)
  return { width, height, data } as P
}
