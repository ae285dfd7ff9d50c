import { toast } from 'sonner'

/** What went wrong, as long as it takes to read it. */
export const say = (error: unknown): void =>
  void toast.error(error instanceof Error ? error.message : String(error), { duration: 12_000 })
