/** Both kinds of storage keep the same promises; object storage against a stand-in server. */
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { text } from 'node:stream/consumers'
import S3rver from 's3rver'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { FolderStorage } from './folder'
import { ObjectStorage } from './objects'
import { type Storage, type StoredFile } from './storage'

const folder = mkdtempSync(join(tmpdir(), 'wily-storage-'))
let count = 0
const file = (content: string): string => {
  const path = join(folder, `file-${count++}`)
  writeFileSync(path, content)
  return path
}
const listed = async (storage: Storage, prefix: string) => {
  const found: StoredFile[] = []
  for await (const each of storage.list(prefix)) found.push(each)
  return found.map(({ key, bytes }) => `${key} ${bytes}`).sort()
}

let server: S3rver, storages: Record<string, Storage>
beforeAll(async () => {
  process.env.AWS_ACCESS_KEY_ID = process.env.AWS_SECRET_ACCESS_KEY = 'S3RVER'
  server = new S3rver({
    port: 0,
    address: '127.0.0.1',
    silent: true,
    directory: join(folder, 's3'),
    configureBuckets: [{ name: 'pictures', configs: [] }],
  })
  const { port } = await server.run()
  const options = { endpoint: `http://127.0.0.1:${port}`, cache: join(folder, 'cache'), cacheBytes: 4000 }
  storages = {
    folder: new FolderStorage(join(folder, 'data')),
    objects: new ObjectStorage('pictures', 'some/where', options),
  }
})
afterAll(() => server.close())

describe.each(['folder', 'objects'])('storage: %s', (kind) => {
  it('what is put in is there, whole, and the file is taken', async () => {
    const storage = storages[kind],
      path = file('hello')
    await storage.put('a/b/one', path)
    expect(await storage.has('a/b/one')).toBe(true)
    expect(() => readFileSync(path)).toThrow()
    expect(readFileSync((await storage.local('a/b/one'))!, 'utf8')).toBe('hello')
    const opened = await storage.open('a/b/one')
    expect(opened!.bytes).toBe(5)
    expect(await text(opened!.stream)).toBe('hello')
  })
  it('what is put in again replaces it', async () => {
    const storage = storages[kind]
    await storage.put('again', file('first'))
    await storage.local('again')
    await storage.put('again', file('the second'))
    expect(readFileSync((await storage.local('again'))!, 'utf8')).toBe('the second')
  })
  it('what is not there is told, and may be removed all the same', async () => {
    const storage = storages[kind]
    expect(await storage.has('nowhere')).toBe(false)
    expect(await storage.local('nowhere')).toBeUndefined()
    expect(await storage.open('nowhere')).toBeUndefined()
    await storage.remove('nowhere')
  })
  it('lists by the beginning of keys, and forgets what is removed', async () => {
    const storage = storages[kind]
    for (const key of ['list/x/1', 'list/x/22', 'list/y/1']) await storage.put(key, file(key))
    expect(await listed(storage, 'list/x/')).toEqual(['list/x/1 8', 'list/x/22 9'])
    await storage.remove('list/x/1', 'list/y/1')
    expect(await listed(storage, 'list/')).toEqual(['list/x/22 9'])
    expect(await storage.local('list/x/1')).toBeUndefined()
  })
})

describe('copies of objects on this machine', () => {
  it('take no more room than they may, and come again', async () => {
    const storage = storages.objects
    for (let i = 0; i < 6; i++) await storage.put(`large/${i}`, file(String(i).repeat(1500)))
    for (let i = 0; i < 6; i++)
      expect(readFileSync((await storage.local(`large/${i}`))!, 'utf8')).toBe(String(i).repeat(1500))
  })
})
