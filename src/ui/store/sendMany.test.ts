import { beforeEach, describe, expect, it, vi } from 'vitest'
import { forgetProblems, sendLeft, sendMany, stopSending, TakenLater, useSending } from './sendMany'
import { Refused, sendPicture, Unreachable } from './server'
import { type StoredPicture } from '@/document/exchanged'
import { forgetFile, keepFile, leftFiles } from './waitingFiles'

vi.mock('./server', async (original) => ({ ...(await original<object>()), sendPicture: vi.fn() }))
vi.mock('./waitingFiles', () => ({ keepFile: vi.fn(), forgetFile: vi.fn(), leftFiles: vi.fn() }))

const GOAL = { kind: 'project' } as const
const stored: StoredPicture = { asset: 'a', width: 1, height: 1, ppi: null }
const files = (...names: string[]) => names.map((name) => new File(['x'], name))
const sent = vi.mocked(sendPicture)
const idle = () => vi.waitFor(() => expect(useSending.getState().under).toEqual({}), { timeout: 10_000 })

beforeEach(() => {
  stopSending()
  forgetProblems()
  sent.mockReset()
  vi.mocked(keepFile).mockReset().mockResolvedValue()
  vi.mocked(forgetFile).mockReset().mockResolvedValue()
})

describe('many pictures', () => {
  it('are taken in their order, whichever is sent first', async () => {
    sent.mockImplementation(async (file) => {
      await new Promise((resolve) => setTimeout(resolve, file.name === 'a' ? 60 : 5))
      return stored
    })
    const taken: string[] = []
    sendMany(files('a', 'b', 'c', 'd'), GOAL, (_, { name }) => void taken.push(name))
    await vi.waitFor(() => expect(useSending.getState().done).toBe(4))
    expect(taken).toEqual(['a', 'b', 'c', 'd'])
  })
  it('those that are refused are named, the rest goes on', async () => {
    sent.mockImplementation(async (file) => {
      if (file.name === 'b') throw new Refused('“b” is damaged.', 422)
      return stored
    })
    const taken: string[] = []
    sendMany(files('a', 'b', 'c'), GOAL, (_, { name }) => void taken.push(name))
    await vi.waitFor(() => expect(useSending.getState().done).toBe(2))
    expect(taken).toEqual(['a', 'c'])
    expect(useSending.getState().problems).toEqual([{ name: 'b', sentence: '“b” is damaged.' }])
  })
  it('while the server is away they wait, and are sent when it is back', async () => {
    let away = true
    sent.mockImplementation(async () => {
      if (away) throw new Unreachable()
      return stored
    })
    sendMany(files('a'), GOAL, () => {})
    await vi.waitFor(() => expect(useSending.getState().waits).toMatch(/cannot be reached/))
    away = false
    await vi.waitFor(() => expect(useSending.getState()).toMatchObject({ done: 1, waits: '' }), { timeout: 5000 })
  })
  it('what is stopped is dropped, and others can be sent after it', async () => {
    sent.mockImplementation(
      (_, __, signal) =>
        new Promise((_resolve, reject) => {
          signal.addEventListener('abort', () => reject(new DOMException('Cancelled', 'AbortError')))
        }),
    )
    const taken: string[] = []
    sendMany(files('a', 'b', 'c'), GOAL, (_, { name }) => void taken.push(name))
    stopSending()
    await idle()
    sent.mockResolvedValue(stored)
    sendMany(files('d'), GOAL, (_, { name }) => void taken.push(name))
    await vi.waitFor(() => expect(taken).toEqual(['d']))
  })
  it('what nobody takes now is kept and no problem; what goes wrong otherwise is told', async () => {
    sent.mockResolvedValue(stored)
    const kept = vi.mocked(keepFile)
    sendMany(files('a', 'b'), GOAL, (_, { name }) => {
      throw name === 'a' ? new TakenLater() : new Error('No room.')
    })
    await vi.waitFor(() => expect(useSending.getState()).toMatchObject({ done: 1, total: 2 }))
    expect(kept.mock.calls.map(([{ file }]) => file.name)).toEqual(['a'])
    expect(useSending.getState().problems).toEqual([{ name: 'b', sentence: 'No room.' }])
  })
  it('while the server is away everything is kept, and let go when it is sent', async () => {
    let away = true
    sent.mockImplementation(async () => {
      if (away) throw new Unreachable()
      return stored
    })
    sendMany(files('a', 'b', 'c'), GOAL, () => {})
    await vi.waitFor(() => expect(vi.mocked(keepFile)).toHaveBeenCalledTimes(3))
    away = false
    await vi.waitFor(() => expect(useSending.getState().done).toBe(3), { timeout: 8000 })
    await vi.waitFor(() => expect(vi.mocked(forgetFile)).toHaveBeenCalledTimes(3))
  })
  it('what an earlier visit left is sent to where it goes', async () => {
    sent.mockResolvedValue(stored)
    vi.mocked(leftFiles).mockResolvedValue([{ id: 'x', file: files('left')[0], goal: GOAL }])
    const taken: string[] = []
    await sendLeft(
      ({ kind }) => kind === 'project',
      (_, { name }) => void taken.push(name),
    )
    await vi.waitFor(() => expect(taken).toEqual(['left']))
    await vi.waitFor(() => expect(vi.mocked(forgetFile)).toHaveBeenCalledWith('x'))
  })
})
