/**
 * One job shared out to several threads. Its pieces are claimed one by one by whoever is free, the thread that asks among them, and are
 * done by the same code whoever does them: one thread gives the same bits as many. Results are written into memory that all of them see.
 */
export interface Task<C, P> {
  /** Under which every thread knows it. */
  readonly name: string
  /** Called once a job on each thread. @param common what all pieces need @param check for long pieces to call now and then: throws when the job is called off @returns what does one piece */
  begin(common: C, check: () => void): (piece: P) => void
}

export interface Crew {
  /** Memory that every thread of the crew sees. */
  readonly allocate: (bytes: number) => ArrayBufferLike
  /** Does all pieces, in any order; each writes only what is its own. @param check is called between pieces with the progress (0-1); what it throws ends the job */
  share<C, P>(task: Task<C, P>, common: C, pieces: readonly P[], check?: (progress: number) => void): void
}

/** The thread that asks does it all. */
export const alone: Crew = {
  allocate: (bytes) => new ArrayBuffer(bytes),
  share(task, common, pieces, check = () => {}) {
    let done = 0
    const told = () => check(done / pieces.length),
      work = task.begin(common, told)
    for (const piece of pieces) {
      told()
      work(piece)
      done++
    }
  },
}

/** Room that the crew sees, all zero. */
export const bytesFor = (crew: Crew, length: number): Uint8Array => new Uint8Array(crew.allocate(length), 0, length)
export const floatsFor = (crew: Crew, length: number): Float32Array =>
  new Float32Array(crew.allocate(4 * length), 0, length)

/** A copy of bytes where the crew sees it. */
export function seenByAll<T extends Uint8Array | Uint8ClampedArray | Float32Array>(crew: Crew, data: T): T {
  if (crew === alone || data.buffer instanceof SharedArrayBuffer) return data
  const copy = new (data.constructor as new (buffer: ArrayBufferLike, offset: number, length: number) => T)(
    crew.allocate(data.byteLength),
    0,
    data.length,
  )
  copy.set(data)
  return copy
}
