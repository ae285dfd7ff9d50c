/** The project: its records, what is being changed right now, their history, and how saving goes. */
import { type SetAside } from '../backup'
import { type OutboxState } from '../outbox'
import { EMPTY_HISTORY, type History } from '@/document/history'
import { type Project } from '@/document/records'

export interface RecordsRoom {
  id: string
  phase: 'loading' | 'ready' | 'failed'
  problem: string
  /** The records after the last act. */
  project: Project | null
  /** The records while something is dragged: shown, not yet an act. */
  live: Project | null
  /** The layer worked on, where another was chosen than the records say; choosing is no change of theirs. */
  active: string | null
  history: History
  saving: OutboxState
  /** Changes that could not be saved. */
  aside: readonly SetAside[]
}

export const initialRecords = (id: string): RecordsRoom => ({
  id,
  phase: 'loading',
  problem: '',
  project: null,
  live: null,
  active: null,
  history: EMPTY_HISTORY,
  saving: { unsent: 0, state: 'saved', kept: true },
  aside: [],
})
