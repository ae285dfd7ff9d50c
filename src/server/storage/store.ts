/**
 * Where files live that are not rows: named by keys, written once and whole. A folder by default; object storage where WILY_STORAGE names a bucket
 * ("s3://bucket/prefix"), so that server and workers may be different machines. Scratch files are always on the machine that makes them (scratch.ts).
 */
import { dataFolder } from './dataFolder'
import { FolderStorage } from './folder'
import { ObjectStorage } from './objects'
import { type Storage } from './storage'

const store = globalThis as typeof globalThis & { wilyStorage?: Storage }
export const storage = (): Storage => (store.wilyStorage ??= chosen(process.env.WILY_STORAGE))

/** Throws for an address that is none. */
export function chosen(address: string | undefined): Storage {
  if (!address) return new FolderStorage(dataFolder())
  const [, bucket, prefix] = /^s3:\/\/([^/]+)\/?(.*)$/.exec(address) ?? []
  if (!bucket) throw new Error(`WILY_STORAGE takes s3://bucket/prefix, not ${address}.`)
  return new ObjectStorage(bucket, prefix, { endpoint: process.env.WILY_STORAGE_ENDPOINT })
}
