import { sentenceOf } from '@/core/fields/sentenceOf'
import { toast } from 'sonner'

/** What went wrong, as long as it takes to read it. */
export const say = (error: unknown): void => void toast.error(sentenceOf(error), { duration: 12_000 })
