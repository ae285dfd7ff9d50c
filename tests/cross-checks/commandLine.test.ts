/** bin/wily as its users call it: the contract of docs/recipe.md. */
import { existsSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { run, folder, photo, recipeFile, quay, amber, plain, third, wily, WALL, grey } from '../setups/commandLine'

describe('bin/wily', () => {
  it('measure tells horizon, light, grain, blur and haze of a photo as JSON', async () => {
    const { stdout } = await run('bin/wily', ['measure', quay]),
      told = JSON.parse(stdout)
    expect([told.width, told.height]).toEqual([1800, 1200])
    expect(told.light.from).toBe('everywhere')
    // Houses hide the horizon (by the camera in demo/scenes/quay.pov it lies at 0.565 of the height): it is guessed from the sky's end, and said so.
    expect(told.horizon.seen).toBe(false)
    expect(told.horizon.y / told.height).toBeGreaterThan(told.skyShare)
    expect(told.horizon.y / told.height).toBeLessThan(0.6)
    expect(Object.keys(told)).toEqual([
      'width', 'height', 'skyShare', 'water', 'horizon', 'light', 'grainLevels', 'blurPx', 'haze', 'landTones', 'skyTones',
    ]) // prettier-ignore
  })
  it.each([
    ['smaller than the photo', () => plain('sky', 120, 80)],
    ['portrait', () => plain('sky', 300, 900)],
    ['with alpha', () => plain('sky', 400, 300, 4)],
  ])('replaceSky takes a sky that is %s, and covers the whole photo', async (_, sky) => {
    const out = join(folder, 'sky.jpg'),
      report = join(folder, 'sky.json')
    expect(await wily('replaceSky', third(quay), '--sky', sky(), '--out', out, '--report', report)).toEqual({
      code: 0,
      said: '',
    })
    const { data, info } = await sharp(out).raw().toBuffer({ resolveWithObject: true })
    expect([info.width, info.height]).toEqual([600, 400])
    // All along the top it is the new sky: bluer than any of the old one.
    for (let x = 0; x < 600; x += 20) expect(data[(5 * 600 + x) * 3 + 2] - data[(5 * 600 + x) * 3]).toBeGreaterThan(40)
  })
  it('select writes an 8-bit grey matte of the photo’s size and a report; the otter is found', async () => {
    const out = join(folder, 'matte.png'),
      report = join(folder, 'report.json')
    expect(await wily('select', photo, '--recipe', recipeFile(WALL), '--out', out, '--report', report)).toEqual({
      code: 0,
      said: '',
    })
    const meta = await sharp(out).metadata()
    expect([meta.width, meta.height, meta.channels, meta.depth]).toEqual([1800, 1200, 1, 'uchar'])
    const { default: told } = await import(report, { with: { type: 'json' } })
    expect(told.width).toBe(1800)
    expect(told.steps.map((s: { kind: string }) => s.kind)).toEqual(WALL.map((s) => s.kind))
    expect(Object.keys(told.ms)).toEqual(['decode', 'solve', 'encode'])
    const got = await grey(out),
      truth = await grey('tests/fixtures/otter-puppet-matte.png')
    let both = 0,
      either = 0
    got.data.forEach((v, i) => {
      const a = v > 127,
        b = truth.data[i] > 127
      if (a && b) both++
      if (a || b) either++
    })
    expect(both / either).toBeGreaterThan(0.97)
    expect(told.selected).toBeCloseTo(got.data.reduce((s, v) => s + v, 0) / 255 / got.data.length, 6)
  })
  it('select says of a large photo, shared among threads, what one thread says', async () => {
    const large = join(folder, 'large.png'),
      out = join(folder, 'large-matte.png'),
      steps = [
        { kind: 'rectangle', x: 900, y: 500, width: 300, height: 300 },
        { kind: 'edge', reach: 5 },
      ]
    await sharp(photo).resize(2500, 1667).png({ compressionLevel: 1 }).toFile(large)
    expect((await wily('select', large, '--recipe', recipeFile(steps), '--out', out)).code).toBe(0)
    const { data, info } = await sharp(large).ensureAlpha().raw().toBuffer({ resolveWithObject: true }),
      alone = foldSteps(
        steps.map((step) => parseStep(step)),
        sceneOf({ width: info.width, height: info.height, data: new Uint8ClampedArray(data) }),
        plainContext(),
      )
    expect(Buffer.compare((await grey(out)).data, alone.data)).toBe(0)
  })
  it('cutout keeps the size, is transparent outside, and lays over a colour or a picture', async () => {
    const out = join(folder, 'cut.png'),
      over = join(folder, 'over.png'),
      otter = third(photo),
      recipe = recipeFile(
        WALL.map((step) => ('at' in step ? { ...step, at: step.at!.map((v) => Math.round(v / 3)) } : step)),
      )
    expect((await wily('cutout', otter, '--recipe', recipe, '--out', out)).code).toBe(0)
    expect((await wily('cutout', otter, '--recipe', recipe, '--out', over, '--backdrop', '#14c83c')).code).toBe(0)
    const cut = await sharp(out).raw().toBuffer({ resolveWithObject: true }),
      green = await sharp(over).raw().toBuffer({ resolveWithObject: true })
    expect([cut.info.width, cut.info.height, cut.info.channels]).toEqual([600, 400, 4])
    const corner = (b: { data: Buffer; info: { channels: number } }) => [...b.data.subarray(0, b.info.channels)]
    expect(corner(cut)).toEqual([0, 0, 0, 0])
    expect(corner(green).slice(0, 3)).toEqual([20, 200, 60])
    expect(
      (await wily('cutout', otter, '--recipe', recipe, '--out', over, '--backdrop', 'demo/pictures/lantern-quay.jpg'))
        .code,
    ).toBe(0)
    expect((await sharp(over).metadata()).width).toBe(600)
  })
  it('a picture that a step names is looked for from the recipe’s folder', async () => {
    await sharp({ create: { width: 20, height: 10, channels: 3, background: '#ffffff' } })
      .png()
      .toFile(join(folder, 'white.png'))
    const out = join(folder, 'image.png')
    expect(
      await wily(
        'select',
        photo,
        '--recipe',
        recipeFile(
          [
            { kind: 'image', asset: 'white.png' },
            { kind: 'gradient', op: 'intersect', shape: 'linear', from: [0, 0], to: [1800, 0] },
          ],
          'image.json',
        ),
        '--out',
        out,
      ),
    ).toEqual({ code: 0, said: '' })
    const { data } = await grey(out)
    expect([data[600 * 1800 + 450], data[600 * 1800 + 1350]]).toEqual([
      expect.closeTo(64, -0.5),
      expect.closeTo(191, -0.5),
    ])
  })
  it.each([
    [
      'a mask picture that is not there',
      [
        'select',
        photo,
        '--recipe',
        () => recipeFile([{ kind: 'image', asset: 'gone.png' }], 'gone.json'),
        '--out',
        () => join(folder, 'no.png'),
      ],
      'there is no such picture file',
    ],
    [
      'a layer, of which there are none',
      [
        'select',
        photo,
        '--recipe',
        () => recipeFile([{ kind: 'layer', layer: 'x' }], 'layer.json'),
        '--out',
        () => join(folder, 'no.png'),
      ],
      'are not known here',
    ],
    [
      'a recipe field out of range',
      [
        'select',
        photo,
        '--recipe',
        () => recipeFile([{ kind: 'similarColour', at: [1, 1], tolerance: 999 }], 'range.json'),
        '--out',
        () => join(folder, 'no.png'),
      ],
      'steps[0].tolerance: takes a number from 0 to 255, not 999',
    ],
    [
      'a recipe that is not JSON',
      ['select', photo, '--recipe', () => recipeFile('nope', 'text.json'), '--out', () => join(folder, 'no.png')],
      'is not JSON',
    ],
    [
      'a recipe nested without end',
      [
        'select',
        photo,
        '--recipe',
        () => recipeFile('['.repeat(200_000) + ']'.repeat(200_000), 'deep.json'),
        '--out',
        () => join(folder, 'no.png'),
      ],
      'is nested deeper than 100 levels',
    ],
    [
      'a report in the place of the matte',
      [
        'select',
        photo,
        '--recipe',
        () => recipeFile([]),
        '--out',
        () => join(folder, 'no.png'),
        '--report',
        () => join(folder, '.', 'no.png'),
      ],
      '--report and --out name the same file',
    ],
    [
      'no such photo',
      ['select', 'missing.jpg', '--recipe', () => recipeFile([]), '--out', () => join(folder, 'no.png')],
      'there is no such picture file',
    ],
    [
      'a text for a photo',
      ['select', 'package.json', '--recipe', () => recipeFile([]), '--out', () => join(folder, 'no.png')],
      'is not a picture',
    ],
    [
      'no place to write',
      ['select', photo, '--recipe', () => recipeFile([]), '--out', '/nowhere/no.png'],
      'cannot be written',
    ],
    [
      'a report that cannot be written',
      [
        'select',
        photo,
        '--recipe',
        () => recipeFile([]),
        '--out',
        () => join(folder, 'no.png'),
        '--report',
        '/nowhere/r.json',
      ],
      'cannot be written',
    ],
    ['an unknown option', ['select', photo, '--colour', 'red'], 'colour'],
    ['no recipe', ['select', photo, '--out', 'x.png'], 'needs --recipe'],
    [
      'a wrong colour',
      ['cutout', photo, '--recipe', () => recipeFile([]), '--out', () => join(folder, 'no.png'), '--backdrop', '#12'],
      '#rrggbb',
    ],
    ['an unknown command', ['paint'], 'is not a command'],
    ['no sky given', ['replaceSky', quay, '--out', () => join(folder, 'no.png')], 'needs --sky'],
    [
      'a picture of a stage for a sky',
      [
        'replaceSky',
        () => third(quay),
        '--sky',
        'demo/pictures/puppet-stage.jpg',
        '--out',
        () => join(folder, 'no.png'),
      ],
      'is no picture of a sky',
    ],
    [
      'a photo without sky',
      ['replaceSky', () => plain('earth', 300, 200), '--sky', amber, '--out', () => join(folder, 'no.png')],
      'no sky that could be replaced',
    ],
    [
      'a photo that is all sky',
      ['replaceSky', () => plain('sky', 300, 200), '--sky', amber, '--out', () => join(folder, 'no.png')],
      'all sky',
    ],
    [
      'a value out of range',
      [
        'replaceSky',
        quay,
        '--sky',
        amber,
        '--values',
        () => recipeFile('{"tone": 3}', 'values.json'),
        '--out',
        () => join(folder, 'no.png'),
      ],
      'values.tone: takes a number from 0 to 1',
    ],
    [
      'a text for a sky',
      ['replaceSky', quay, '--sky', 'package.json', '--out', () => join(folder, 'no.png')],
      'is not a picture',
    ],
    [
      'an ending of another kind',
      ['replaceSky', quay, '--sky', amber, '--out', 'x.gif'],
      'takes a .png or .jpg or .jpeg file',
    ],
  ] as [string, (string | (() => string))[], string][])(
    '%s: exit 2, one line that says what is wrong, nothing written',
    async (_, args, sentence) => {
      const { code, said } = await wily(...args.map((a) => (typeof a === 'function' ? a() : a)))
      expect(code).toBe(2)
      expect(said.split('\n')).toHaveLength(1)
      expect(said).toContain(sentence)
      expect(existsSync(join(folder, 'no.png'))).toBe(false)
      expect(readdirSync(folder).filter((f) => f.endsWith('.part'))).toEqual([])
    },
  )
})
