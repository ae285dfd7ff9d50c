import { beforeEach, describe, expect, it, vi } from 'vitest'
import { forgetProblems, sendMany, stopSending, useSending } from './sendMany'
import { Refused, sendPicture, type StoredPicture, Unreachable } from './server'

vi.mock('./server', async (original) => ({ ...(await original<object>()), sendPicture: vi.fn() }))

const stored: StoredPicture = { asset: 'a', width: 1, height: 1, ppi: null }
const files = (...names: string[]) => names.map((name) => new File(['x'], name))
const sent = vi.mocked(sendPicture)
const idle = () => vi.waitFor(() => expect(useSending.getState().under).toEqual({}), { timeout: 10_000 })

beforeEach(() => {
  stopSending()
  forgetProblems()
  sent.mockReset()
})

describe('many pictures', () => {
  it('are taken in their order, whichever is sent first', async () => {
    sent.mockImplementation(async (file) => {
      await new Promise((resolve) => setTimeout(resolve, file.name === 'a' ? 60 : 5))
      return stored
    })
    const taken: string[] = []
    sendMany(files('a', 'b', 'c', 'd'), (_, { name }) => void taken.push(name))
    await vi.waitFor(() => expect(useSending.getState().done).toBe(4))
    expect(taken).toEqual(['a', 'b', 'c', 'd'])
  })
  it('those that are refused are named, the rest goes on', async () => {
    sent.mockImplementation(async (file) => {
      if (file.name === 'b') throw new Refused('“b” is damaged.', 422)
      return stored
    })
    const taken: string[] = []
    sendMany(files('a', 'b', 'c'), (_, { name }) => void taken.push(name))
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
    sendMany(files('a'), () => {})
    await vi.waitFor(() => expect(useSending.getState().waits).toBe(true))
    away = false
    await vi.waitFor(() => expect(useSending.getState()).toMatchObject({ done: 1, waits: false }), { timeout: 5000 })
  })
  it('what is stopped is dropped, and others can be sent after it', async () => {
    sent.mockImplementation(
      (_, __, signal) =>
        new Promise((_resolve, reject) => {
          signal.addEventListener('abort', () => reject(new DOMException('Cancelled', 'AbortError')))
        }),
    )
    const taken: string[] = []
    sendMany(files('a', 'b', 'c'), (_, { name }) => void taken.push(name))
    stopSending()
    await idle()
    sent.mockResolvedValue(stored)
    sendMany(files('d'), (_, { name }) => void taken.push(name))
    await vi.waitFor(() => expect(taken).toEqual(['d']))
  })
})
