import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { beginPictures } from '@/engine/page/threads'
import { beginOpening, openedCover, openedProject } from './early'

vi.mock('@/engine/page/threads', () => ({
  beginPictures: vi.fn((shown: Promise<unknown>) => void shown.catch(() => {})),
}))

const layer = (asset: string, more: object = {}) => ({ id: asset, kind: 'picture', asset, visible: true, ...more })
const layers = [
  layer('a'),
  layer('b', { visible: false }),
  layer('a', { id: 'again' }),
  { id: 'g', kind: 'group', visible: false },
  layer('c', { parent: 'g' }),
  layer('d'),
]
const asked: string[] = []
let answer: (path: string) => Response | Promise<Response>
beforeEach(() => {
  asked.length = 0
  answer = () => Response.json({ id: 'p', records: { layers } })
  vi.stubGlobal('fetch', async (path: string) => {
    asked.push(path)
    return answer(path)
  })
  vi.stubGlobal('createImageBitmap', async (file: Blob) => ({ size: file.size }))
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})
const timesAsked = (part: string) => asked.filter((path) => path.includes(part)).length

it('a project and its cover are asked for once, though the page comes later, and anew the next time', async () => {
  beginOpening('one')
  expect(await vi.mocked(beginPictures).mock.lastCall?.[0]).toEqual(['a', 'd'])
  expect(await openedProject('one')).toMatchObject({ id: 'p' })
  await openedCover('one')
  expect([timesAsked('one?acts'), timesAsked('one/cover')]).toEqual([1, 1])
  await openedProject('one')
  await openedCover('one')
  expect([timesAsked('one?acts'), timesAsked('one/cover')]).toEqual([2, 2])
})
it('another project than the one that was begun is asked for itself', async () => {
  beginOpening('one')
  await openedProject('two')
  await openedCover('two')
  expect([timesAsked('two?acts'), timesAsked('two/cover')]).toEqual([1, 1])
})
it('what was asked for long ago is not taken for what is there now', async () => {
  vi.useFakeTimers({ toFake: ['performance'] })
  beginOpening('one')
  vi.advanceTimersByTime(20_000)
  await openedProject('one')
  expect(timesAsked('one?acts')).toBe(2)
})
it('a failure is told to who opens the project, and a cover that is not there is none', async () => {
  for (const none of [new Response(null, { status: 204 }), new Response('', { status: 404 })]) {
    answer = (path) => (path.includes('cover') ? none : Promise.reject(new TypeError('away')))
    beginOpening('one')
    expect(await openedCover('one')).toBeNull()
  }
  await expect(openedProject('one')).rejects.toThrow('The server cannot be reached')
})
