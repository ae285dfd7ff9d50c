/** The names under which files are stored. */
export const KEYS = {
  picture: (sha256: string): string => `pictures/${sha256.slice(0, 2)}/${sha256}`,
  /** The plain PNG of a picture that a browser would show differently. */
  plain: (sha256: string): string => `${KEYS.picture(sha256)}.plain.png`,
  thumbnail: (sha256: string): string => `${KEYS.picture(sha256)}.small.webp`,
  /** What took long to find in a project. */
  result: (project: string, name: string): string => `results/${project}/${name}`,
  export: (id: string): string => `exports/${id}`,
  batch: (id: string): string => `batches/${id}/`,
  batched: (id: string, picture: number): string => `batches/${id}/${picture}`,
  batchedThumbnail: (id: string, picture: number): string => `batches/${id}/${picture}.small.webp`,
} as const
/** Everything there may be of a picture. */
export const keysOfAsset = (sha256: string): string[] => [
  KEYS.picture(sha256),
  KEYS.plain(sha256),
  KEYS.thumbnail(sha256),
]
