import { beforeEach, expect, it, vi } from 'vitest'
import { NoWeights } from '@/core/network/network'
import { networkWeights } from '../networkWeights'
import { type DecodedFile, type SharedPicture } from '../protocol'
import { bringStored } from './results'
import { always, closePicture, handOver, keepPictures, openEarly, openPicture, run, withAreas } from './work'

const decoded: string[] = []
vi.mock('../networkWeights', () => ({ networkWeights: vi.fn(() => Promise.resolve()) }))
vi.mock('./results', () => ({ bringStored: vi.fn(), keepCostly: vi.fn(), openResultsOf: vi.fn() }))
vi.mock('./decode', () => ({
  fetchPicture: async (asset: string, early?: Promise<DecodedFile | null>) => {
    decoded.push((await early) ? `${asset} handed over` : asset)
    return { levels: [], opaque: true, rarestHue: 0 } satisfies SharedPicture
  },
}))
beforeEach(() => {
  vi.mocked(networkWeights).mockClear()
  decoded.length = 0
  keepPictures([])
})
const area = {
  recipe: { version: 1, steps: [] },
  saved: [],
  scene: 'none',
  canvas: { width: 4, height: 4 },
  toLayer: [1, 0, 0, 1, 0, 0],
} as never

it('what is stored needs no network; what asks it all the same is done again once it is there', async () => {
  vi.mocked(bringStored).mockResolvedValue(true)
  expect(await withAreas([area], [], [], () => Promise.resolve('made'))).toBe('made')
  expect(networkWeights).not.toHaveBeenCalled()
  let asked = 0
  const asks = () => (asked++ ? Promise.resolve('made') : Promise.reject(new NoWeights('things')))
  expect(await withAreas([area], [], [], asks)).toBe('made')
  expect(networkWeights).toHaveBeenCalledTimes(1)
  await expect(withAreas([area], [], [], () => Promise.reject(new Error('other')))).rejects.toThrow('other')
  expect(networkWeights).toHaveBeenCalledTimes(1)
})
it('what is not stored sends for the network, and waits for it only if it asks it', async () => {
  vi.mocked(bringStored).mockResolvedValue(false)
  const order: string[] = []
  let arrive = () => {}
  vi.mocked(networkWeights).mockImplementation(() => {
    order.push('sent for')
    return new Promise<void>((resolve) => (arrive = resolve)).then(() => void order.push('there'))
  })
  await withAreas([area], [], [], async () => void order.push('by colour'))
  expect(order).toEqual(['sent for', 'by colour'])
  order.length = 0
  let asked = 0
  const byObject = withAreas([area], [], [], () => {
    order.push('by object')
    return asked++ ? Promise.resolve() : Promise.reject(new NoWeights('things'))
  })
  await vi.waitFor(() => expect(order).toEqual(['sent for', 'by object', 'sent for']))
  arrive()
  await byObject
  expect(order).toEqual(['sent for', 'by object', 'sent for', 'there', 'by object'])
  vi.mocked(networkWeights).mockImplementation(() => Promise.reject(new Error('A part could not be loaded.')))
  await withAreas([area], [], [], async () => void order.push('by colour'))
  await expect(withAreas([area], [], [], () => Promise.reject(new NoWeights('things')))).rejects.toThrow('A part')
  vi.mocked(networkWeights).mockImplementation(() => Promise.resolve())
})
it('any work begins again once the network has what it asked for, unless it is no longer wanted', async () => {
  let asked = 0
  const looks = () => {
    if (!asked++) throw new NoWeights('sky')
    return 'seen'
  }
  expect(await run('Looking', always, looks)).toBe('seen')
  expect(networkWeights).toHaveBeenCalledExactlyOnceWith('sky')
  let wanted = true
  const overtaken = run(
    'Looking',
    () => wanted,
    ({ check }) => {
      check(0)
      wanted = false
      throw new NoWeights('sky')
    },
  )
  expect(await overtaken).toBeNull()
})

it('what a project shows is opened early, once, and is there for who opens it', async () => {
  openEarly(['a'], [])
  await openPicture('a')
  expect(decoded).toEqual(['a'])
  closePicture('a')
  await openPicture('a')
  expect(decoded).toEqual(['a']) // it is kept until it is said what to keep
  closePicture('a')
  keepPictures([])
  await openPicture('a')
  expect(decoded).toEqual(['a', 'a'])
  closePicture('a')
})
it('what the page decodes is waited for and taken once; what it could not have is tried here', async () => {
  const file = { file: new Blob(), bitmap: { close() {} } as ImageBitmap }
  openEarly(['p', 'q', 'r'], ['p', 'q'])
  const open = Promise.all(['p', 'q', 'r'].map((asset) => openPicture(asset)))
  await vi.waitFor(() => expect(decoded).toEqual(['r']))
  handOver('p', file)
  handOver('q', null)
  handOver('never asked for', file)
  await open
  expect([...decoded].sort()).toEqual(['p handed over', 'q', 'r'])
  for (const asset of ['p', 'q', 'r']) closePicture(asset)
  keepPictures([])
  await openPicture('p')
  expect(decoded.at(-1)).toBe('p')
  closePicture('p')
})
