import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { type Act } from '@/document/history'
import { Outbox, type OutboxState } from './outbox'

const act = (id: string, parent: string | null = null): Act => ({
  id,
  parent,
  label: id,
  forward: { to: id },
  inverse: { to: parent },
  at: '2026-01-01T00:00:00Z',
})
interface Sent {
  acts: Act[]
  head: string | null
  revision: number
  sending: string
}
/** What the next sendings are answered with; then everything is taken. */
let answers: ((body: Sent) => Response | Promise<Response>)[], sent: Sent[], said: OutboxState[]
const moved = (body: Sent, more: object = {}) =>
  Response.json({ head: body.head, revision: body.revision + 1, moved: true, ...more })
const problem = (status: number) => () => Response.json({ problem: `status ${status}` }, { status })
const noAnswer = () => Promise.reject(new TypeError('no connection'))
const idle = () => vi.advanceTimersByTimeAsync(0)

const refused: string[] = []
let overtaken: number, lost: number
const outboxOf = (): Outbox =>
  new Outbox('project', {
    report: (state) => void said.push(state),
    overtaken: () => Promise.resolve(void overtaken++),
    refused: (one, _why, rest) => {
      refused.push(one.id)
      // What was made after it is told again, as if it had not been.
      return {
        acts: rest.map((each) => act(`${each.id} again`)),
        head: rest.length ? `${rest.at(-1)!.id} again` : null,
      }
    },
    lost: () => void lost++,
    sent: () => {},
  })

beforeEach(() => {
  vi.useFakeTimers()
  answers = []
  sent = []
  said = []
  refused.length = 0
  overtaken = lost = 0
  vi.stubGlobal('navigator', {}) // no locks, and no database: this browser keeps nothing
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    const body = JSON.parse(init.body as string) as Sent
    sent.push(body)
    return Promise.race([
      (answers.shift() ?? moved)(body),
      new Promise<never>((_resolve, reject) =>
        init.signal?.addEventListener('abort', () => reject(init.signal!.reason as Error)),
      ),
    ])
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const idsOf = ({ acts }: Sent) => acts.map(({ id }) => id)
const state = () => said.at(-1)!.state

describe('what was done goes to the server', () => {
  it('in its order, those that come while a sending is on its way in the next one', async () => {
    const outbox = outboxOf()
    outbox.put(act('a'), 'a', null)
    outbox.put(act('b', 'a'), 'b', null)
    outbox.put(act('c', 'b'), 'c', null)
    await idle()
    expect(sent.flatMap(idsOf)).toEqual(['a', 'b', 'c'])
    expect(sent.at(-1)!.head).toBe('c')
    expect([outbox.unsent, state()]).toEqual([false, 'saved'])
    // An undo is a head alone.
    outbox.put(null, 'b', 'c')
    await idle()
    expect([idsOf(sent.at(-1)!), sent.at(-1)!.head]).toEqual([[], 'b'])
  })

  it('again under the same name when no answer comes, and says that it waits', async () => {
    const outbox = outboxOf()
    answers.push(noAnswer, problem(503), problem(500))
    outbox.put(act('a'), 'a', null)
    await idle()
    expect(said.at(-1)).toMatchObject({ state: 'waiting', unsent: 1 })
    await vi.advanceTimersByTimeAsync(5000)
    expect(sent).toHaveLength(4)
    expect(new Set(sent.map(({ sending }) => sending)).size).toBe(1)
    expect([outbox.unsent, state()]).toEqual([false, 'saved'])
  })

  it('again under the same name when a connection stalls', async () => {
    answers.push(() => new Promise(() => {}))
    const outbox = outboxOf()
    outbox.put(act('a'), 'a', null)
    await vi.advanceTimersByTimeAsync(10_000)
    expect(sent).toHaveLength(1)
    await vi.advanceTimersByTimeAsync(10_000)
    expect(sent.map(({ sending }) => sending)).toEqual([sent[0].sending, sent[0].sending])
    expect(said.at(-1)).toMatchObject({ state: 'saved', unsent: 0 })
  })
  it('another thing done meanwhile is another sending', async () => {
    const outbox = outboxOf()
    answers.push(noAnswer)
    outbox.put(act('a'), 'a', null)
    await idle()
    outbox.put(act('b', 'a'), 'b', null)
    await vi.advanceTimersByTimeAsync(5000)
    expect(sent[0].sending).not.toBe(sent.at(-1)!.sending)
    expect(idsOf(sent.at(-1)!)).toContain('b')
    expect(state()).toBe('saved')
  })

  it('one that is refused for good is found among the others and set aside; the rest goes on', async () => {
    const outbox = outboxOf()
    // However many go together: a sending with this one in it is refused.
    const picky = (body: Sent) => (idsOf(body).includes('bad') ? problem(422)() : moved(body))
    answers.push(noAnswer, ...Array.from({ length: 8 }, () => picky))
    outbox.put(act('a'), 'a', null)
    outbox.put(act('bad', 'a'), 'bad', null)
    outbox.put(act('c', 'bad'), 'c', null)
    await vi.advanceTimersByTimeAsync(5000)
    expect(sent.some((body) => idsOf(body).length > 1 && idsOf(body).includes('bad'))).toBe(true)
    expect(refused).toEqual(['bad'])
    expect(idsOf(sent.at(-1)!)).toEqual(['c again'])
    expect(state()).toBe('saved')
  })

  it('who was overtaken takes in what others did before going on', async () => {
    const outbox = outboxOf()
    answers.push((body) => moved(body, { moved: false }))
    outbox.put(act('a'), 'a', null)
    await idle()
    expect(overtaken).toBe(1)
    // The act is stored; what is shown is said again.
    expect([idsOf(sent.at(-1)!), sent.at(-1)!.head]).toEqual([[], 'a'])
  })

  it('of a project that was deleted nothing is sent any more, and a head the server does not know opens it anew', async () => {
    const gone = outboxOf()
    answers.push(problem(404))
    gone.put(act('a'), 'a', null)
    await idle()
    gone.put(act('b', 'a'), 'b', null)
    await vi.advanceTimersByTimeAsync(20_000)
    expect([sent.length, state()]).toEqual([1, 'gone'])
    const unknown = outboxOf()
    answers.push(problem(422))
    unknown.put(null, 'nowhere', null)
    await idle()
    expect([lost, unknown.unsent]).toEqual([1, false])
  })

  it('a closed one sends nothing more', async () => {
    const outbox = outboxOf()
    answers.push(noAnswer)
    outbox.put(act('a'), 'a', null)
    await idle()
    outbox.close()
    await vi.advanceTimersByTimeAsync(20_000)
    expect(sent).toHaveLength(1)
  })
})
