import { expect, it } from 'vitest'
import { type Task } from './crew'
import { CALLED_OFF, DONE, FAILED, helpWith, PIECES } from './threads'

it('a helper ends a long piece when its job is called off, and goes on with the next job', async () => {
  const port: { onmessage: ((event: MessageEvent) => void) | null } = { onmessage: null },
    looked: number[] = []
  const long: Task<{ calledOffAt: number; state: Int32Array }, number> = {
    name: 'long',
    begin:
      ({ calledOffAt, state }, check) =>
      () => {
        for (let step = 0; step < 10; step++) {
          if (step === calledOffAt) Atomics.store(state, CALLED_OFF, 1)
          check()
          looked.push(step)
        }
      },
  }
  helpWith(port, [long] as never)
  const post = (calledOffAt: number) => {
    const state = new Int32Array(new SharedArrayBuffer(4 * (PIECES + 1)))
    port.onmessage!({ data: { task: 'long', common: { calledOffAt, state }, pieces: [0], state } } as MessageEvent)
    return state
  }
  const off = post(3),
    whole = post(-1)
  await expect.poll(() => whole[PIECES]).toBe(DONE)
  expect(off[PIECES]).toBe(FAILED)
  expect(looked).toEqual([0, 1, 2, 0, 1, 2, 3, 4, 5, 6, 7, 8, 9])
})
