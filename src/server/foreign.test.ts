import { describe, expect, it } from 'vitest'
import { foreign } from './foreign'

const asked = (headers: Record<string, string>) => foreign(new Headers(headers))

describe('who may ask', () => {
  it('our own pages, and what is no page at all', () => {
    const ways: ((host: string) => Record<string, string>)[] = [
      (host) => ({ host }),
      (host) => ({ host, origin: `http://${host}`, 'sec-fetch-site': 'same-origin' }),
      (host) => ({ host, 'sec-fetch-site': 'none' }),
    ]
    for (const host of ['127.0.0.1:4780', 'localhost:4780', '[::1]:4780', '127.0.0.1'])
      for (const way of ways) expect(asked(way(host))).toBeUndefined()
  })
  it('nobody by another name, from another origin, or sent by another site', () => {
    const host = '127.0.0.1:4780'
    for (const headers of [
      { host: 'evil.example' },
      { host: '127.0.0.1.evil.example:4780' },
      {},
      { host, origin: 'http://evil.example' },
      { host, origin: 'http://127.0.0.1:9999' },
      { host, origin: 'null' },
      { host, 'sec-fetch-site': 'cross-site' },
      { host, 'sec-fetch-site': 'same-site' },
    ] as Record<string, string>[])
      expect(asked(headers)).toBeTruthy()
  })
})
