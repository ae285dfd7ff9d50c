/** Bytes by fours, to look at them quickly; the last up to three are left out. A copy where they do not lie on words. */
export const wordsOf = (data: Uint8Array): Uint32Array =>
  data.byteOffset % 4 === 0
    ? new Uint32Array(data.buffer, data.byteOffset, data.length >> 2)
    : new Uint32Array(data.slice().buffer, 0, data.length >> 2)
