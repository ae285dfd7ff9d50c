/** wily batch: one plan on every picture of a folder, by several threads; needs no database. */
import { mkdir, readdir, rm, stat, writeFile } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { basename, dirname, extname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { RecordError } from '@/core/fields/record'
import { type BatchPlan, parseBatchPlan } from '@/document/batchPlan'
import { FORMATS } from '@/document/fileFormats'
import { namesInFolder } from '@/server/fileNames'
import { kindOf } from '@/server/pictures/firstBytes'
import { type BatchAnswer, type BatchQuestion } from './batchThread'
import { readJsonFile, Unusable } from './files'

export interface BatchOptions {
  recipe: string
  out: string
  workers?: string
  report?: string
}
interface Told {
  readonly file: string
  readonly out?: string
  readonly selected?: number
  readonly doubt?: number
  readonly note?: string
  readonly problem?: string
  readonly ms: number
}

export async function batch(folder: string, options: BatchOptions): Promise<void> {
  const workers = workersOf(options.workers),
    plan = await planOf(options.recipe),
    { pictures, others } = await picturesIn(folder)
  if (!pictures.length) throw new Unusable(`${folder}: there is no picture in this folder.`)
  if (resolve(options.out) === resolve(folder))
    throw new Unusable('--out: takes another folder than that of the pictures; nothing was written.')
  await mkdir(options.out, { recursive: true }).catch((error: NodeJS.ErrnoException) => {
    throw new Unusable(`${options.out}: cannot be made (${error.code ?? 'error'}).`)
  })
  const nameOf = namesInFolder(),
    { extension } = FORMATS[plan.output.format],
    questions: BatchQuestion[] = pictures.map((file) => ({
      photo: join(folder, file),
      out: join(options.out, nameOf(basename(file, extname(file)), extension)),
      plan,
      from: dirname(resolve(options.recipe)),
    }))
  const began = performance.now(),
    told = await all(questions, Math.min(workers, questions.length)),
    failed = told.filter(({ problem }) => problem !== undefined)
  const seconds = (performance.now() - began) / 1000
  if (options.report !== undefined)
    await writeFile(options.report, `${JSON.stringify({ seconds, workers, pictures: told }, null, 1)}\n`)
  process.stdout.write(
    `${told.length - failed.length} of ${told.length} pictures made in ${seconds.toFixed(1)} s${others ? `; ${others} other files were left alone` : ''}\n`,
  )
  if (failed.length) throw new Unusable(failed.map(({ file, problem }) => `${file}: ${problem}`).join('\n'))
}

/** In the order of their names, with folders in it. */
async function picturesIn(folder: string): Promise<{ pictures: string[]; others: number }> {
  if (!(await stat(folder).catch(() => null))?.isDirectory()) throw new Unusable(`${folder}: there is no such folder.`)
  const pictures: string[] = []
  let others = 0
  for (const entry of await readdir(folder, { withFileTypes: true, recursive: true })) {
    if (!entry.isFile()) continue
    const file = join(entry.parentPath, entry.name)
    if (await kindOf(file)) pictures.push(file.slice(join(folder, '/').length))
    else others++
  }
  return { pictures: pictures.sort(), others }
}

function workersOf(value: string | undefined): number {
  const usual = availableParallelism(),
    given = value === undefined ? usual : Number(value)
  if (!Number.isInteger(given) || given < 1 || given > 256)
    throw new Unusable(`--workers: takes a whole number from 1 to 256, not ${value}.`)
  return given
}

async function planOf(file: string): Promise<BatchPlan> {
  const json = await readJsonFile(file, 'recipe')
  try {
    return parseBatchPlan(json)
  } catch (error) {
    throw error instanceof RecordError ? new Unusable(`${file}: ${error.message}`) : error
  }
}

/** Each thread takes the next as soon as it is free. One that dies is begun again; what it was at is said to have failed. */
async function all(questions: readonly BatchQuestion[], width: number): Promise<Told[]> {
  const told: Told[] = []
  let next = 0
  const lane = async () => {
    let thread = begin()
    while (next < questions.length) {
      const i = next++,
        question = questions[i],
        began = performance.now(),
        answer = await ask(thread, question)
      if (!answer.alive) thread = begin()
      const { alive, ...rest } = answer
      void alive
      told[i] = {
        file: question.photo,
        ...('problem' in rest ? {} : { out: question.out }),
        ...rest,
        ms: Math.round(performance.now() - began),
      }
      say(told[i], told.filter(Boolean).length, questions.length)
    }
    await thread.terminate()
  }
  await Promise.all(Array.from({ length: width }, lane))
  return told
}
const begin = (): Worker => new Worker(fileURLToPath(new URL('./batchThread.mjs', import.meta.url)))

function ask(thread: Worker, question: BatchQuestion): Promise<BatchAnswer & { alive: boolean }> {
  return new Promise((answer) => {
    const over = (what: BatchAnswer & { alive: boolean }) => {
      for (const event of ['message', 'error', 'exit']) thread.removeAllListeners(event)
      answer(what)
    }
    const died = (problem: string) =>
      void rm(`${question.out}.part`, { force: true }).then(() => over({ problem, alive: false }))
    thread.on('message', (what: BatchAnswer) => over({ ...what, alive: true }))
    thread.on('error', (error) => died(error.message))
    thread.on('exit', () => died('its thread ended.'))
    thread.postMessage(question)
  })
}

function say({ file, selected, doubt, note, problem }: Told, done: number, count: number): void {
  const percent = (share: number) => `${(100 * share).toFixed(1)} %`
  process.stderr.write(
    `${done}/${count} ${basename(file)}: ${problem ?? `${percent(selected ?? 0)} selected, doubt ${percent(doubt ?? 0)}${note ? `; ${note}` : ''}`}\n`,
  )
}
