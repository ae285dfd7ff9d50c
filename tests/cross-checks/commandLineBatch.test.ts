/** wily batch: a folder of pictures by one plan. */
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { folder, wily } from '../setups/commandLine'

describe('wily batch', () => {
  const photos = join(folder, 'photos'),
    made = join(folder, 'made')
  const plan = (name: string, json: object) => {
    const file = join(folder, name)
    writeFileSync(
      file,
      JSON.stringify({ version: 1, steps: [{ kind: 'ellipse', x: 30, y: 20, width: 60, height: 40 }], ...json }),
    )
    return file
  }
  const paint = async () => {
    mkdirSync(join(photos, 'more'), { recursive: true })
    const photo = (width: number, height: number) =>
      sharp({ create: { width, height, channels: 3, background: '#c04020' } })
        .jpeg()
        .toBuffer()
    writeFileSync(join(photos, 'one.jpg'), await photo(120, 80))
    writeFileSync(join(photos, 'more', 'one.jpg'), await photo(240, 160))
    writeFileSync(join(photos, 'broken.jpg'), (await photo(900, 700)).subarray(0, 400))
    writeFileSync(join(photos, 'notes.txt'), 'no picture')
  }
  it('makes every picture, by steps scaled to each; names what it cannot read, and goes on', async () => {
    await paint()
    const file = plan('plan.json', { canvas: { width: 120, height: 80 }, output: { what: 'matte' } }),
      report = join(folder, 'batch.json')
    const { code, said } = await wily(
      'batch',
      photos,
      '--recipe',
      file,
      '--out',
      made,
      '--workers',
      '2',
      '--report',
      report,
    )
    expect(code).toBe(2)
    expect(said).toMatch(/broken\.jpg.*damaged/)
    expect(readdirSync(made).sort()).toEqual(['one 2.png', 'one.png'])
    const told = (JSON.parse(readFileSync(report, 'utf8')) as { pictures: { selected?: number }[] }).pictures
    // The same ellipse in both: its share of the picture is the same.
    expect(told.flatMap(({ selected }) => selected ?? []).map((share) => share.toFixed(2))).toEqual(['0.20', '0.20'])
  })
  it('says what it cannot use', async () => {
    const file = plan('jpeg.json', { output: { format: 'jpeg' } })
    expect((await wily('batch', photos, '--recipe', file, '--out', made)).said).toMatch(
      /transparency, which JPEG cannot/,
    )
    const good = plan('good.json', {})
    expect((await wily('batch', join(folder, 'nowhere'), '--recipe', good, '--out', made)).said).toMatch(
      /no such folder/,
    )
    expect((await wily('batch', photos, '--recipe', good, '--out', photos)).said).toMatch(/another folder/)
    expect((await wily('batch', photos, '--recipe', good, '--out', made, '--workers', '0')).said).toMatch(/1 to 256/)
    expect((await wily('tidy', 'something')).said).toMatch(/takes no file/)
  })
})
