import { type JobData, type QueueName } from './boss'
import { type Task } from './task'

/** What a worker must know of one kind of job: the rows that say what it is and what becomes of it. All but `store` may be asked twice. */
export interface JobKind {
  readonly queue: QueueName
  idOf(data: JobData): string
  /** The row now says that it runs. Undefined where there is nothing to do any more. */
  begin(data: JobData): Promise<Task | undefined>
  /** A sign of life. */
  touch(data: JobData, progress?: number): Promise<void>
  /** False where its row is gone, or asks for something else now. */
  wanted(data: JobData): Promise<boolean>
  /** True where its row says that nobody has begun it. */
  waits(data: JobData): Promise<boolean>
  /** Puts its files into storage, once; a try that is no longer asked for leaves nothing. @returns what the row is to say */
  store(data: JobData, task: Task, result: unknown): Promise<object | undefined>
  /** The row says that it is done, and what came of it. */
  done(data: JobData, made: object): Promise<void>
  failed(data: JobData, problem: string): Promise<void>
  /** Its worker ends: whoever looks next finds it lost. */
  abandon(data: JobData): Promise<void>
  /** It waits again. */
  giveBack(data: JobData): Promise<void>
  /** Those that run but have given no sign of life for so long, ms: they now wait again. */
  lost(ms: number): Promise<JobData[]>
  /** What must be put right now and then. */
  tend(): Promise<void>
  /** Takes away the task's own files. */
  clear(task: Task): Promise<void>
}
