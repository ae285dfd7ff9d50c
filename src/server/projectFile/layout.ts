/**
 * A project file: a zip of project.json (what it is, and how the project began), acts.ndjson (all changes, one a line, in the order they came, undone ones
 * too) and the pictures that any of its states shows, under their SHA-256. Plain JSON and picture files: other programs can read it.
 */
import { type Project } from '@/document/records'

export const PROJECT_FILE = 'wily-scissor project'
/** Raised when an older installation could not read it. */
export const PROJECT_FILE_VERSION = 1
export const PROJECT_ENTRY = 'project.json',
  ACTS_ENTRY = 'acts.ndjson',
  PICTURES = 'pictures/'

export interface ProjectHead {
  readonly format: typeof PROJECT_FILE
  readonly version: typeof PROJECT_FILE_VERSION
  readonly initial: Project
  /** The act whose result is shown; null: the beginning. */
  readonly head: string | null
}
