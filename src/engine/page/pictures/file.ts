/** A picture's file, and what the browser makes of it: asked for by the page before the picture worker's code is there, and by the worker. */
import { type DecodedFile, UNAVAILABLE } from '../protocol'

/** Throws an error named UNAVAILABLE, with a sentence, when the file cannot be had now, and another when it cannot be decoded. */
export async function decodedFile(asset: string): Promise<DecodedFile> {
  const file = await fetchFile(asset)
  try {
    return { file, bitmap: await createImageBitmap(file, { colorSpaceConversion: 'none', premultiplyAlpha: 'none' }) }
  } catch {
    throw new Error(UNDECODABLE)
  }
}
export const UNDECODABLE = 'A picture could not be decoded by this browser.'

async function fetchFile(asset: string): Promise<Blob> {
  const unavailable = (why: string) =>
    Object.assign(new Error(`A picture could not be loaded: ${why}`), { name: UNAVAILABLE })
  let response: Response
  try {
    response = await fetch(`/api/pictures/${asset}`)
  } catch {
    throw unavailable('the server cannot be reached right now.')
  }
  if (!response.ok) {
    const { problem } = (await response.json().catch(() => ({}))) as { problem?: string }
    throw unavailable(problem ?? 'the server did not say why.')
  }
  return response.blob().catch(() => {
    throw unavailable('the connection broke off.')
  })
}
