import { expect, it } from 'vitest'
import { remoteOf } from './threads'

it('a worker has one proxy, whoever asks: one that is collected would close the end of all others', () => {
  const { port1, port2 } = new MessageChannel()
  expect(remoteOf(port1 as unknown as Worker)).toBe(remoteOf(port1 as unknown as Worker))
  expect(remoteOf(port2 as unknown as Worker)).not.toBe(remoteOf(port1 as unknown as Worker))
  port1.close()
})
