/** JSON from outside: how deep it is nested is known before anything is built from it. */

/** Deeper than anything here is. */
export const JSON_DEPTH = 100
/** A sentence for people, without a subject: “is not JSON”. */
export class JsonError extends Error {}

const QUOTE = 0x22,
  BACKSLASH = 0x5c
const isOpening = (byte: number): boolean => byte === 0x5b || byte === 0x7b
const isClosing = (byte: number): boolean => byte === 0x5d || byte === 0x7d

/** @param bytes UTF-8. Throws JsonError. */
export function readJson(bytes: Uint8Array): unknown {
  let depth = 0,
    inText = false
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]
    if (inText) {
      if (byte === BACKSLASH) i++
      else if (byte === QUOTE) inText = false
    } else if (byte === QUOTE) inText = true
    else if (isOpening(byte)) {
      if (++depth > JSON_DEPTH) throw new JsonError(`is nested deeper than ${JSON_DEPTH} levels`)
    } else if (isClosing(byte)) depth--
  }
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
  } catch {
    throw new JsonError('is not JSON')
  }
}
