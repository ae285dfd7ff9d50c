'use client'
/** The selection's steps, or a mask's: cards in order, each with how it combines, what it finds, and its values when open. */
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
import { isFinding, type Step } from '@/core/steps/registry'
import { layerById, moveStep } from '@/document/edits'
import { lookedOtherwise } from '@/document/tree'
import { act, shownProject, shownSteps, useBench } from '@/ui/store/bench'
import { type Rendering } from '@/ui/store/rendering'
import { later } from '@/ui/primitives/later'
import { useSameList } from '@/ui/primitives/useSameList'
import { AddModifier, HomeTitle, StepsMenu } from './StepsHeader'
import { StepCard } from './StepCard'

const KeptPanel = later(() => import('./KeptPanel').then((module) => module.KeptPanel))

const THUMBNAIL_PX = 88
/** Made once: new ones would draw every card of the list anew. */
const ALONG_THE_LIST = [restrictToVerticalAxis],
  BY_POINTER = { activationConstraint: { distance: 4 } },
  BY_KEYBOARD = { coordinateGetter: sortableKeyboardCoordinates }
const THUMBNAILS_AFTER_MS = 160

export function StepsPanel({ rendering }: { rendering: RefObject<Rendering | null> }) {
  const steps = useBench(shownSteps),
    home = useBench((state) => state.home),
    openStep = useBench((state) => state.openStep),
    project = useBench(shownProject)
  const thumbnails = useThumbnails(rendering, steps)
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
  const maskOf = home.kind === 'mask' && project ? layerById(project, home.layer) : undefined
  const reorder = ({ active, over }: DragEndEvent) => {
    const to = steps.findIndex((s) => s.id === over?.id)
    if (over && active.id !== over.id && to >= 0) act('Reorder steps', moveStep(home, String(active.id), to))
  }
  return (
    <section aria-label="Steps" className="flex min-h-0 flex-col">
      <header className="flex h-10 shrink-0 items-center gap-1 border-b border-[var(--line)] pr-2 pl-3">
        <HomeTitle home={home} name={maskOf ? `Mask of ${maskOf.name}` : 'Selection'} />
        <KeptPanel />
        <AddModifier home={home} />
        <StepsMenu />
      </header>
      {steps.length === 0 ? (
        <p className="px-4 py-5 text-[13px] leading-relaxed text-[var(--muted)]">
          Nothing is selected yet. Choose a finder on the left and use it on the picture; each use becomes a step here,
          and stays editable.
        </p>
      ) : (
        <DndContext sensors={sensors} collisionDetection={closestCenter} modifiers={ALONG_THE_LIST} onDragEnd={reorder}>
          <SortableContext items={ids} strategy={verticalListSortingStrategy}>
            <ol className="min-h-0 overflow-y-auto" aria-label="Steps, first to last">
              {steps.map((step, i) => (
                <StepCard
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
    </section>
  )
}

/** Small pictures of the steps, asked for once the values rest. */
function useThumbnails(rendering: RefObject<Rendering | null>, steps: readonly Step[]): Record<string, ImageBitmap> {
  const [bitmaps, setBitmaps] = useState<Record<string, ImageBitmap>>({})
  const result = useBench((state) => state.result),
    live = useBench((state) => state.live !== null)
  useEffect(() => {
    if (!result || live) return
    const timer = setTimeout(() => {
      rendering.current?.thumbnails(THUMBNAIL_PX).then(setBitmaps, () => {})
    }, THUMBNAILS_AFTER_MS)
    return () => clearTimeout(timer)
  }, [rendering, result, live, steps])
  return bitmaps
}
