/** A thread that reads, checks and stores records, so that big ones never keep the server from answering. */
import { parentPort } from 'node:worker_threads'
import { checkActs, checkNewProject } from '../inputs'
import { isDatabaseGone, jsonOf, Problem } from '../problems'
import { aboutProject, createProject, newActs, openProject, storeActs } from '../projects'
import { type RecordsAnswer, type RecordsRequest } from './pool'

async function answer({ ask, id, body, args = [] }: RecordsRequest): Promise<unknown> {
  switch (ask) {
    case 'create': {
      const input = await checkNewProject(jsonOf(body!))
      await createProject(input.id, input.records)
      return { id: input.id }
    }
    case 'open':
      return openProject(id, (args[0] as number | null) ?? undefined)
    case 'acts':
      return newActs(id, args[0] as number, (args[1] as number | null) ?? undefined)
    case 'store':
      return storeActs(id, await checkActs(jsonOf(body!)))
    case 'about':
      return aboutProject(id, args[0] as string | null, args[1] as string | null)
  }
}

parentPort!.on('message', (request: RecordsRequest) => {
  answer(request).then(
    (value) => {
      const bytes = new TextEncoder().encode(JSON.stringify(value))
      parentPort!.postMessage({ number: request.number, bytes } satisfies RecordsAnswer, [bytes.buffer])
    },
    (error: unknown) => {
      const problem =
        error instanceof Problem
          ? { status: error.status, sentence: error.message }
          : isDatabaseGone(error)
            ? { status: 503, sentence: 'The database cannot be reached right now.' }
            : null
      if (!problem) console.error(error)
      parentPort!.postMessage({
        number: request.number,
        problem: problem ?? { status: 500, sentence: 'Something went wrong on the server; its log says what.' },
      } satisfies RecordsAnswer)
    },
  )
})
