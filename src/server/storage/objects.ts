/**
 * Files in S3-compatible object storage. Credentials and region come from the environment, as the library reads them (AWS_ACCESS_KEY_ID and so on).
 * What is needed as a file is fetched once into this machine's cache, which is bounded: what was used longest ago goes first.
 */
import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, readdir, rename, rm, stat, utimes } from 'node:fs/promises'
import { join } from 'node:path'
import { type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import {
  DeleteObjectsCommand,
  GetObjectCommand,
  HeadObjectCommand,
  ListObjectsV2Command,
  PutObjectCommand,
  S3Client,
} from '@aws-sdk/client-s3'
import { dataFolder } from './dataFolder'
import { type Storage, type StoredFile } from './storage'

/** Of this machine's copies, bytes. */
const CACHE_BYTES = 8 * 2 ** 30
/** Objects one request may remove, by the protocol. */
const REMOVED_AT_ONCE = 1000

export interface ObjectStorageOptions {
  /** Where it is not the provider's own. */
  readonly endpoint?: string
  readonly cache?: string
  readonly cacheBytes?: number
}

export class ObjectStorage implements Storage {
  private readonly client: S3Client
  private readonly cache: string
  private readonly cacheBytes: number

  constructor(
    private readonly bucket: string,
    private readonly prefix: string,
    { endpoint, cache = join(dataFolder(), 'cache'), cacheBytes = CACHE_BYTES }: ObjectStorageOptions = {},
  ) {
    this.client = new S3Client({
      ...(endpoint ? { endpoint, forcePathStyle: true } : {}),
      region: process.env.AWS_REGION ?? 'us-east-1',
      // Servers other than the first do not all know the newer checksums.
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
    })
    this.cache = cache
    this.cacheBytes = cacheBytes
  }
  private readonly at = (key: string) => ({ Bucket: this.bucket, Key: this.name(key) })
  private readonly name = (key: string): string => (this.prefix ? `${this.prefix.replace(/\/$/, '')}/${key}` : key)

  async put(key: string, file: string): Promise<void> {
    const { size } = await stat(file)
    await this.client.send(new PutObjectCommand({ ...this.at(key), Body: createReadStream(file), ContentLength: size }))
    await mkdir(this.cache, { recursive: true, mode: 0o700 })
    await rename(file, this.copyOf(key)).catch(() => rm(file, { force: true }))
    await this.makeRoom()
  }
  async local(key: string): Promise<string | undefined> {
    const copy = this.copyOf(key)
    if (await stat(copy).catch(() => null)) {
      // Another machine may have removed or replaced it.
      const there = await this.head(key)
      if (!there) {
        await rm(copy, { force: true })
        return undefined
      }
      if (there.bytes === (await stat(copy)).size) {
        await utimes(copy, new Date(), new Date())
        return copy
      }
    }
    const found = await this.open(key)
    if (!found) return undefined
    await mkdir(this.cache, { recursive: true, mode: 0o700 })
    const part = `${copy}.${randomUUID()}.part`
    try {
      await pipeline(found.stream, createWriteStream(part))
      await rename(part, copy)
    } finally {
      await rm(part, { force: true })
    }
    await this.makeRoom()
    return copy
  }
  async open(key: string) {
    try {
      const { Body, ContentLength } = await this.client.send(new GetObjectCommand(this.at(key)))
      return { stream: Body as Readable, bytes: ContentLength ?? 0 }
    } catch (error) {
      if (isMissing(error)) return undefined
      throw error
    }
  }
  has = async (key: string): Promise<boolean> => Boolean(await this.head(key))

  async remove(...keys: readonly string[]): Promise<void> {
    for (let from = 0; from < keys.length; from += REMOVED_AT_ONCE) {
      const some = keys.slice(from, from + REMOVED_AT_ONCE)
      await this.client.send(
        new DeleteObjectsCommand({
          Bucket: this.bucket,
          Delete: { Objects: some.map((key) => ({ Key: this.name(key) })), Quiet: true },
        }),
      )
      await Promise.all(some.map((key) => rm(this.copyOf(key), { force: true })))
    }
  }
  async *list(prefix: string): AsyncIterable<StoredFile> {
    let next: string | undefined
    do {
      const page = await this.client.send(
        new ListObjectsV2Command({ Bucket: this.bucket, Prefix: this.name(prefix), ContinuationToken: next }),
      )
      const own = this.name('').length
      for (const { Key, Size, LastModified } of page.Contents ?? [])
        if (Key) yield { key: Key.slice(own), bytes: Size ?? 0, changed: LastModified ?? new Date() }
      next = page.NextContinuationToken
    } while (next)
  }

  private async head(key: string): Promise<{ bytes: number } | null> {
    try {
      const { ContentLength } = await this.client.send(new HeadObjectCommand(this.at(key)))
      return { bytes: ContentLength ?? 0 }
    } catch (error) {
      if (isMissing(error)) return null
      throw error
    }
  }
  private readonly copyOf = (key: string): string =>
    join(
      this.cache,
      createHash('sha256')
        .update(`${this.bucket} ${this.name(key)}`)
        .digest('hex'),
    )

  private async makeRoom(): Promise<void> {
    const copies = await Promise.all(
      (await readdir(this.cache)).map(async (name) => {
        const found = await stat(join(this.cache, name)).catch(() => null)
        return { name, bytes: found?.size ?? 0, used: found?.mtimeMs ?? 0 }
      }),
    )
    let over = copies.reduce((sum, { bytes }) => sum + bytes, 0) - this.cacheBytes
    for (const { name, bytes } of copies.sort((a, b) => a.used - b.used)) {
      if (over <= 0) return
      await rm(join(this.cache, name), { force: true })
      over -= bytes
    }
  }
}

const isMissing = (error: unknown): boolean =>
  error instanceof Error && (error.name === 'NoSuchKey' || error.name === 'NotFound' || statusOf(error) === 404)
const statusOf = (error: Error): number | undefined =>
  (error as { $metadata?: { httpStatusCode?: number } }).$metadata?.httpStatusCode
