import { type FindingKind } from './step'
import { number, wholes } from '../fields/fields'

export interface SubjectFields {
  /** Which of the things that compete: 0 is what stands out most. */
  pick: number
  /** Further ones that are taken besides. */
  also: readonly number[]
}

/**
 * Subject: what stands out against what touches the border, as one thing with an outline on edges. Where several things compete, `pick`
 * chooses among them, and `also` takes more. How it is found: `segment/things.ts`.
 */
export const subject: FindingKind<'subject', SubjectFields> = {
  kind: 'subject',
  finds: true,
  looksAtPixels: true,
  fields: { pick: number(0, 9, 0), also: wholes(0, 9, 9) },
}
