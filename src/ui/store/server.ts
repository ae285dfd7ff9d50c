/** Calls to the route handlers. A refusal carries the server's sentence; no answer at all is Unreachable. */
import {
  type ExportRequest,
  type ExportState,
  type OpenProject,
  type ProjectSummary,
  type SomeActs,
  type Standing,
  type StoredPicture,
} from '@/document/exchanged'
import { type Act } from '@/document/history'
import { PICTURE_BYTES } from '@/document/limits'
import { type Project } from '@/document/records'

export class Refused extends Error {
  constructor(
    sentence: string,
    readonly status: number,
  ) {
    super(sentence)
  }
}
/** The server or its database cannot be reached; trying again later makes sense. */
export class Unreachable extends Error {
  constructor(sentence = 'The server cannot be reached right now.') {
    super(sentence)
  }
}

export async function call<T>(path: string, init?: RequestInit): Promise<T> {
  let response: Response
  try {
    response = await fetch(path, init)
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new Unreachable()
  }
  if (response.ok) return response.json() as Promise<T>
  const { problem } = (await response.json().catch(() => ({}))) as { problem?: string }
  if (response.status >= 500) throw new Unreachable(problem)
  throw new Refused(problem ?? 'The server refused this without saying why.', response.status)
}
export const json = (method: string, body: unknown): RequestInit => ({
  method,
  body: JSON.stringify(body),
  headers: { 'content-type': 'application/json' },
})

export const listProjects = () => call<{ projects: ProjectSummary[] }>('/api/projects').then((r) => r.projects)
export const createProject = (id: string, records: Project) =>
  call<{ id: string }>('/api/projects', json('POST', { id, records }))
/** With the newest acts; older ones are read by `actsUntil`. */
export const openProject = (id: string) => call<OpenProject>(`/api/projects/${id}?acts=${ACTS_AT_FIRST}`)
const ACTS_AT_FIRST = 200
export const actsUntil = (id: string, until: number) =>
  call<SomeActs>(`/api/projects/${id}/acts?after=0&until=${until}`)
export const deleteProject = (id: string) => call(`/api/projects/${id}`, { method: 'DELETE' })
export interface Sending extends Standing {
  acts: readonly Act[]
  /** The same name for the same sending, however often it is sent. */
  sending: string
}
/** `moved` is false where somebody else moved the project on: the acts are stored, what is shown stays theirs. */
export async function sendActs(id: string, sending: Sending): Promise<Standing & { moved: boolean }> {
  const init = json('POST', sending),
    stalled = new AbortController(),
    timer = setTimeout(
      () => stalled.abort(new DOMException('No answer came.', 'TimeoutError')),
      ANSWER_MS + (init.body as string).length / SLOWEST,
    )
  try {
    return await call(`/api/projects/${id}/acts`, { ...init, signal: stalled.signal })
  } finally {
    clearTimeout(timer)
  }
}
/** A connection that brings no answer for so long (ms) has stalled, however slowly (characters a ms) it carries: what is sent again arrives once. */
const ANSWER_MS = 15_000,
  SLOWEST = 10
export const newActs = (id: string, after: number) => call<SomeActs>(`/api/projects/${id}/acts?after=${after}`)
export const sendCover = (id: string, webp: Blob) => call(`/api/projects/${id}/cover`, { method: 'PUT', body: webp })
export const startExport = (request: ExportRequest) => call<ExportState>('/api/exports', json('POST', request))
export const exportState = (id: string) => call<ExportState>(`/api/exports/${id}`)
export const cancelExport = (id: string) => call(`/api/exports/${id}`, { method: 'DELETE' })

export type SendProgress = (fraction: number) => void

/** Sends a picture file with progress (0-1). Throws Refused with one sentence. */
export function sendPicture(file: File, progress: SendProgress, signal: AbortSignal): Promise<StoredPicture> {
  if (file.size > PICTURE_BYTES)
    // it would be sent for nothing
    return Promise.reject(
      new Refused(
        `“${file.name}” is ${Math.round(file.size / 1024 / 1024)} MB; picture files up to ${PICTURE_BYTES / 1024 / 1024} MB are read.`,
        413,
      ),
    )
  return sendFile('/api/pictures', file, {}, progress, signal)
}

/** XMLHttpRequest, because fetch does not tell how much of a body has been sent. Throws Refused with one sentence, Unreachable, AbortError. */
export function sendFile<T>(
  path: string,
  file: File,
  headers: Readonly<Record<string, string>>,
  progress: SendProgress,
  signal: AbortSignal,
): Promise<T> {
  if (file.size === 0) return Promise.reject(new Refused(`“${file.name}” is empty.`, 422))
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('POST', path)
    request.setRequestHeader('x-file-name', encodeURIComponent(file.name))
    for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value)
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) progress(event.loaded / event.total)
    }
    request.onerror = () =>
      reject(new Unreachable(`“${file.name}” could not be sent: the server cannot be reached right now.`))
    request.onabort = () => reject(new DOMException('Cancelled', 'AbortError'))
    request.onload = () => {
      let answer: { problem?: string } = {}
      try {
        answer = JSON.parse(request.responseText) as typeof answer
      } catch {
        /* not the server's own answer */
      }
      if (request.status === 200) resolve(answer as T)
      else if (request.status >= 500)
        reject(
          new Unreachable(
            `“${file.name}” was not stored: ${answer.problem ?? 'the server cannot be reached right now.'}`,
          ),
        )
      else reject(new Refused(answer.problem ?? `“${file.name}” was refused by the server.`, request.status))
    }
    signal.addEventListener('abort', () => request.abort())
    request.send(file)
  })
}
