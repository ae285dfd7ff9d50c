/** JSON from outside: its depth is known before anything is built from it. */
import { JSON_DEPTH } from '@/document/limits'
import { Problem } from '../problems'

const QUOTE = 0x22,
  BACKSLASH = 0x5c,
  OPEN = new Set([0x5b, 0x7b]),
  CLOSE = new Set([0x5d, 0x7d])

/** Throws Problem 422 for what is no JSON, or nested deeper than anything here is. */
export function readJsonBytes(bytes: Uint8Array): unknown {
  let depth = 0,
    inText = false
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]
    if (inText) {
      if (byte === BACKSLASH) i++
      else if (byte === QUOTE) inText = false
    } else if (byte === QUOTE) inText = true
    else if (OPEN.has(byte)) {
      if (++depth > JSON_DEPTH) throw new Problem(422, `The request is nested deeper than ${JSON_DEPTH} levels.`)
    } else if (CLOSE.has(byte)) depth--
  }
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
  } catch {
    throw new Problem(422, 'The request is not JSON.')
  }
}
