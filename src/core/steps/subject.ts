import { type FindingKind } from './step'
import { number } from '../fields/fields'

export interface SubjectFields {
  /** Which of the things that compete: 0 is what stands out most. */
  pick: number
}

/**
 * Subject: what stands out against what touches the border, as one thing with an outline on edges. Where several things compete, `pick`
 * chooses among them. How it is found: `segment/things.ts`.
 */
export const subject: FindingKind<'subject', SubjectFields> = {
  kind: 'subject',
  finds: true,
  looksAtPixels: true,
  fields: { pick: number(0, 9, 0) },
}
