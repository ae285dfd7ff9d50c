import { type Project } from '@/document/records'
import { type Studio } from '@/engine/studio'
import { type PictureFiles } from '../pictures/parts'

export type Progress = (fraction: number) => void

/** What can be drawn for an export: the records, and a studio over the pictures they show. */
export interface Drawn {
  readonly records: Project
  readonly studio: Studio
  readonly pictures: PictureFiles
}
