/** An export from its start to its end, watched and cancelled; what the page waits for to be saved comes first. */
import { type ExportRequest, type ExportState } from '@/document/exchanged'
import { endBurst } from '@/ui/primitives/burst'
import { get } from './bench'
import { cancelExport, exportState, startExport } from './server'

const ASK_EVERY_MS = 200
const pause = () => new Promise((resolve) => setTimeout(resolve, ASK_EVERY_MS))

/** Of the project as it is shown. Null when it was cancelled, or another project was opened. Throws with a sentence. @param cancelled asked now and then */
export async function runExport(
  what: Omit<ExportRequest, 'project' | 'head'>,
  progress: (fraction: number) => void,
  cancelled: () => boolean,
): Promise<ExportState | null> {
  const project = get().id,
    over = () => cancelled() || get().id !== project
  endBurst()
  while (get().saving.state === 'sending' && !over()) await pause()
  if (over()) return null
  if (get().saving.state !== 'saved') throw new Error('This waits until the server has all changes.')
  let state = await startExport({ ...what, project, head: get().history.head })
  while (state.state === 'waiting' || state.state === 'running') {
    progress(state.progress)
    await pause()
    if (over()) {
      await cancelExport(state.id)
      return null
    }
    state = await exportState(state.id)
  }
  if (state.state === 'failed') throw new Error(state.problem ?? 'The export failed.')
  return state
}
