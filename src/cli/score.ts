/** wily score: how far a matte is from the truth. */
import { matteErrors } from '@/core/matting/errors'
import { coverageOf } from '@/core/select/image'
import { readPhoto, Unusable } from './files'

/** Prints how far a matte is from the truth, one measure a line. */
export async function score(files: readonly string[], trimap: string | undefined): Promise<void> {
  if (files.length !== 2)
    throw new Unusable(`score takes a matte and the truth, not ${files.length} file${files.length === 1 ? '' : 's'}.`)
  const grey = async (file: string) => coverageOf(await readPhoto(file), 'luminance')
  const [matte, truth] = [await grey(files[0]), await grey(files[1])]
  let errors
  try {
    errors = matteErrors(matte, truth, trimap === undefined ? undefined : await grey(trimap))
  } catch (error) {
    throw error instanceof RangeError ? new Unusable(error.message) : error
  }
  const { sad, mse, gradient, connectivity, iou, pixels } = errors
  process.stdout.write(
    `sum of absolute differences  ${sad.toFixed(3)} thousand\nmean squared error           ${mse.toFixed(5)}\ngradient error               ${gradient.toFixed(3)} thousand\nconnectivity error           ${connectivity.toFixed(3)} thousand\nintersection over union      ${iou.toFixed(4)}\npixels compared              ${pixels}\n`,
  )
}
