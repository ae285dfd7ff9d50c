import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { zipSync } from 'fflate'
import { beforeAll, describe, expect, it } from 'vitest'
import { openZip } from './zipFile'

const folder = mkdtempSync(join(tmpdir(), 'wily-zip-'))
const bytes = (text: string) => new TextEncoder().encode(text)
const zipped = (files: Record<string, Uint8Array>, name = 'a.zip') => {
  const path = join(folder, name)
  writeFileSync(path, zipSync(files))
  return path
}
beforeAll(() => {
  process.env.WILY_DATA = folder
})

describe('zip files from outside', () => {
  it('are read', async () => {
    const zip = await openZip(zipped({ 'a.txt': bytes('hello'), 'b/c.txt': bytes('there') }), '“a.zip”')
    expect(zip.names).toEqual(['a.txt', 'b/c.txt'])
    expect((await zip.read('b/c.txt', 100)).toString()).toBe('there')
    zip.close()
  })
  it.each(['../outside', '/etc/passwd', 'a/../../b', 'a\\..\\b'])('one that names %s is refused', async (name) => {
    await expect(openZip(zipped({ [name]: bytes('x') }), '“a.zip”')).rejects.toThrow(/outside itself/)
  })
  it('one that unpacks to more than it may is refused before it is unpacked', async () => {
    const zip = await openZip(zipped({ bomb: new Uint8Array(5_000_000) }), '“a.zip”')
    await expect(zip.read('bomb', 1_000_000)).rejects.toThrow(/longer than is read here/)
    await expect(zip.extract('bomb', 1_000_000)).rejects.toThrow(/longer than is read here/)
    zip.close()
  })
  it('one that says less than it holds is found out while it is unpacked', async () => {
    const whole = Buffer.from(zipSync({ bomb: new Uint8Array(500_000) }))
    // The size it says, in the local header and the directory, becomes 10 bytes.
    const size = Buffer.alloc(4)
    size.writeUInt32LE(500_000)
    const short = Buffer.alloc(4)
    short.writeUInt32LE(10)
    for (let at = whole.indexOf(size); at >= 0; at = whole.indexOf(size, at + 4)) short.copy(whole, at)
    const path = join(folder, 'lies.zip')
    writeFileSync(path, whole)
    const zip = await openZip(path, '“lies.zip”')
    await expect(zip.read('bomb', 1000)).rejects.toThrow(/damaged/)
    zip.close()
  })
  it('what is no zip, or ends early, is said to be damaged', async () => {
    const path = join(folder, 'no.zip')
    writeFileSync(path, 'hello')
    await expect(openZip(path, '“no.zip”')).rejects.toThrow(/damaged/)
    writeFileSync(path, zipSync({ a: bytes('x'.repeat(5000)) }).slice(0, 60))
    await expect(openZip(path, '“no.zip”')).rejects.toThrow(/damaged/)
  })
  it('a file that is not in it is named', async () => {
    const zip = await openZip(zipped({ a: bytes('x') }), '“a.zip”')
    await expect(zip.read('stack.xml', 10)).rejects.toThrow(/lacks the file stack\.xml/)
    zip.close()
  })
})
