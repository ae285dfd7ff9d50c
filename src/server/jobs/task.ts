/** What a worker hands to its threads, and hears back. */
import { type ExportInput } from '../inputs'
import { type BatchPlan } from '@/document/batchPlan'

/** Files are written into `folder`, which is the task's own. */
export type Task =
  | { readonly kind: 'export'; readonly folder: string; readonly input: ExportInput }
  | {
      readonly kind: 'batch'
      readonly folder: string
      readonly photo: string
      readonly name: string
      readonly plan: BatchPlan
      readonly project: string | null
    }
export type TaskMessage =
  | { readonly progress: number }
  | { readonly done: unknown }
  | { readonly failed: string; /** Trying again would come to the same. */ readonly forGood: boolean }

/** The file a task makes, in its folder. */
export const RESULT = 'result'
/** A small picture of it, where there is one. */
export const THUMBNAIL = 'thumbnail.webp'
