import { describe, expect, it } from 'vitest'
import { parseStep } from '@/core/formats/recipe'
import { type Project, SELECTION } from '@/document/records'
import { isMoving } from './requests'

const project = {
  layers: [],
  selection: {
    version: 1,
    steps: [
      parseStep({ kind: 'liveWire', id: 'wire', anchors: [[1, 2]] }),
      parseStep({ kind: 'polygon', id: 'corners', points: [[1, 2]] }),
    ],
  },
} as unknown as Project

describe('a quick answer will do', () => {
  it.each<[string, object | null, string | null, boolean]>([
    ['while something is dragged', {}, null, true],
    ['while a step is drawn that makes drafts', null, 'wire', true],
    ['not while one is drawn that makes none', null, 'corners', false],
    ['not where the step being drawn was taken back', null, 'gone', false],
    ['not at rest', null, null, false],
  ])('%s', (_, live, drawing, quick) => {
    expect(isMoving({ live: live as never, drawing, home: SELECTION }, project)).toBe(quick)
  })
})
