/** A thread of wily batch: one picture after another, each written beside its place and moved there whole. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import '@/core/network/withAllWeights'
import { rename, rm } from 'node:fs/promises'
import { resolve } from 'node:path'
import { parentPort } from 'node:worker_threads'
import { alone } from '@/core/parallel/crew'
import { type BatchPlan } from '@/document/batchPlan'
import { pictureByPlan } from '@/server/batches/pictureByPlan'
import { readPhoto } from './files'

export interface BatchQuestion {
  readonly photo: string
  readonly out: string
  readonly plan: BatchPlan
  /** The folder that pictures named by the plan are looked for from. */
  readonly from: string
}
export type BatchAnswer =
  { readonly selected: number; readonly doubt: number; readonly note?: string } | { readonly problem: string }

async function make({ photo, out, plan, from }: BatchQuestion): Promise<BatchAnswer> {
  const part = `${out}.part`
  try {
    const { result, picture } = await pictureByPlan(
      await readPhoto(photo),
      plan,
      (name) => readPhoto(resolve(from, name)),
      alone,
      () => {},
    )
    await picture.toFile(part)
    await rename(part, out)
    const { selected, doubt, notes } = result
    return { selected, doubt, ...(notes.length ? { note: notes.join(' ') } : {}) }
  } catch (error) {
    return { problem: sentenceOf(error) }
  } finally {
    await rm(part, { force: true })
  }
}

parentPort!.on('message', (question: BatchQuestion) => {
  void make(question).then((answer) => parentPort!.postMessage(answer))
})
