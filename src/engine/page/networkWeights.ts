/** The network's weights are brought when a worker is first asked for what may need them. */
let coming: Promise<unknown> | undefined

/** Throws a sentence when they cannot be had now; the next one who asks tries again. */
export const networkWeights = (): Promise<unknown> =>
  (coming ??= import('@/core/network/withWeights').catch(() => {
    coming = undefined
    throw new Error('A part of the application could not be loaded: try again when the server can be reached.')
  }))
