'use client'
/** The steps of the selection, or of a mask, below their row in the list: in order, each dragged to another place; then what they select. */
import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { restrictToVerticalAxis } from '@dnd-kit/modifiers'
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { type RefObject, useEffect, useMemo, useState } from 'react'
import { isFinding } from '@/core/steps/registry'
import { moveStep } from '@/document/edits'
import { lookedOtherwise } from '@/document/tree'
import { useSameList } from '@/ui/primitives/useSameList'
import { act, get, shownSteps, useBench } from '@/ui/store/bench'
import { type Rendering } from '@/ui/store/rendering'
import { ResultLine } from './ResultLine'
import { AddModifier, StepsMenu } from './stepsMenus'
import { StepRow } from './StepRow'

const THUMBNAIL_PX = 88
/** Made once: new ones would draw every row of the list anew. */
const ALONG_THE_LIST = [restrictToVerticalAxis],
  BY_POINTER = { activationConstraint: { distance: 4 } },
  BY_KEYBOARD = { coordinateGetter: sortableKeyboardCoordinates }
const THUMBNAILS_AFTER_MS = 160

export function StepList({ rendering }: { rendering: RefObject<Rendering | null> }) {
  const steps = useBench(shownSteps),
    home = useBench((state) => state.home),
    openStep = useBench((state) => state.openStep)
  const thumbnails = useThumbnails(rendering)
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER), useSensor(KeyboardSensor, BY_KEYBOARD))
  const ids = useSameList(steps.map((step) => step.id!))
  // Only what is stored can have been made on an earlier picture: while something is dragged nothing else changes.
  const stored = useBench((state) => state.project)
  const changed = useMemo(
    () =>
      new Set(
        home.kind === 'selection' && stored
          ? stored.selection.steps.filter((step) => lookedOtherwise(stored, step)).map((step) => step.id)
          : [],
      ),
    [home.kind, stored],
  )
  const firstFinding = steps.findIndex(isFinding)
  const reorder = ({ active, over }: DragEndEvent) => {
    const to = steps.findIndex((s) => s.id === over?.id)
    if (over && active.id !== over.id && to >= 0) act('Reorder steps', moveStep(home, String(active.id), to))
  }
  return (
    <section aria-label="Steps" className="border-b border-[var(--line)] bg-[var(--opened)] pb-2">
      {steps.length > 0 && (
        <DndContext sensors={sensors} collisionDetection={closestCenter} modifiers={ALONG_THE_LIST} onDragEnd={reorder}>
          <SortableContext items={ids} strategy={verticalListSortingStrategy}>
            <ol aria-label="Steps, first to last">
              {steps.map((step, i) => (
                <StepRow
                  key={step.id}
                  step={step}
                  home={home}
                  first={firstFinding === i}
                  open={step.id === openStep}
                  changed={changed.has(step.id)}
                  thumbnail={thumbnails[step.id!]}
                />
              ))}
            </ol>
          </SortableContext>
        </DndContext>
      )}
      <div className="flex items-center justify-between pr-2 pl-3">
        <AddModifier home={home} />
        <StepsMenu />
      </div>
      <ResultLine />
    </section>
  )
}

/** Small pictures of the steps, asked for once the values rest and what they select is there: never what finds it first, which would tell no progress. */
function useThumbnails(rendering: RefObject<Rendering | null>): Record<string, ImageBitmap> {
  const [bitmaps, setBitmaps] = useState<Record<string, ImageBitmap>>({})
  const result = useBench((state) => state.result),
    live = useBench((state) => state.live !== null)
  useEffect(() => {
    if (!result || live) return
    const timer = setTimeout(() => {
      if (!get().selecting) rendering.current?.thumbnails(THUMBNAIL_PX).then(setBitmaps, () => {})
    }, THUMBNAILS_AFTER_MS)
    return () => clearTimeout(timer)
  }, [rendering, result, live])
  return bitmaps
}
