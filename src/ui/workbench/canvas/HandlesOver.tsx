'use client'
/** The handles of what is open, over the picture. */
import { useMemo, useSyncExternalStore } from 'react'
import { apply, compose, inverse, scaling, translation } from '@/core/raster/affine'
import { type FindingStep, isFinding, type ModifyingStep } from '@/core/steps/registry'
import { homeToCanvas, recipeAt } from '@/document/edits'
import { finderPage, pageOfStep } from '@/ui/finders/registry'
import { shownProject, useBench } from '@/ui/store/bench'
import { modifierPage } from '@/ui/modifiers/registry'
import { EdgeHandles } from '@/ui/edge/EdgeHandles'
import { handPage } from '@/ui/compose/hands/registry'
import { later } from '@/ui/primitives/later'
import { comparing, partInView } from '@/ui/store/frame'
import { PictureView } from '@/ui/canvas/Grip'
import { PathShown } from '@/ui/canvas/PathShown'
import { SnapLines } from '@/ui/canvas/SnapLines'
import { type Viewer } from '@/ui/canvas/viewer'

const GuidesOver = later(() => import('@/ui/canvas/GuidesOver').then((module) => module.GuidesOver))
const DividerOver = later(() => import('./DividerOver').then((module) => module.DividerOver))
const HorizonOver = later(() => import('@/ui/match/HorizonOver').then((module) => module.HorizonOver))

/** A finder whose handles follow the pointer shows them before there is a step, too. */
const NO_STEP = {} as never

/** The open step's handles, or the active layer's while composing. */
export function HandlesOver({ viewer }: { viewer: Viewer }) {
  const view = useSyncExternalStore(viewer.subscribe, viewer.getView)
  const project = useBench(shownProject),
    stage = useBench((state) => state.stage),
    home = useBench((state) => state.home),
    openStep = useBench((state) => state.openStep),
    hidden = useBench((state) => state.before || state.marksHidden)
  const finder = useBench((state) => finderPage(state.finder))
  const keptBeside = useBench((state) => comparing(state) === 'divider')
  const chosenHand = useBench((state) => state.hand),
    hand = handPage(chosenHand)
  const pointer = useBench((state) =>
    (
      state.stage === 'compose'
        ? handPage(state.hand).followsPointer
        : state.stage === 'edge' || state.drawing || finderPage(state.finder).followsPointer
    )
      ? state.pointer
      : null,
  )
  const toCanvas = useMemo(() => (project ? homeToCanvas(project, home) : null), [project, home])
  if (!project || !toCanvas || hidden) return null
  const toScreen = compose(scaling(viewer.cssScale), translation(-view.left, -view.top)),
    { fromCanvas, size } = partInView({ stage, hand: chosenHand }, project),
    map = compose(toScreen, fromCanvas)
  const recipe = recipeAt(project, home)
  const step = recipe?.steps.find((s): s is FindingStep => s.id === openStep && isFinding(s))
  const page = step && !step.hidden ? pageOfStep(step) : undefined
  const modifying = recipe?.steps.find((s): s is ModifyingStep => s.id === openStep && !isFinding(s) && !s.hidden),
    changer = modifying && modifierPage(modifying.kind)
  const pointerOnScreen = pointer && apply(toScreen, pointer[0], pointer[1])
  const stepsToScreen = compose(map, toCanvas)
  return (
    <PictureView.Provider value={{ left: view.left, top: view.top, scale: viewer.cssScale }}>
      <svg
        className="pointer-events-none absolute inset-0 size-full overflow-hidden"
        data-view={`${view.left} ${view.top} ${viewer.cssScale}`}
      >
        {stage === 'select' && finder.followsPointer && page?.id !== finder.id && (
          <finder.Handles
            step={NO_STEP}
            home={home}
            toScreen={(x, y) => apply(stepsToScreen, x, y)}
            fromScreen={(x, y) => apply(inverse(stepsToScreen), x, y)}
            pointer={pointerOnScreen}
          />
        )}
        {stage === 'select' && page?.Handles && (
          <page.Handles
            step={step as never}
            home={home}
            toScreen={(x, y) => apply(stepsToScreen, x, y)}
            fromScreen={(x, y) => apply(inverse(stepsToScreen), x, y)}
            pointer={pointerOnScreen}
          />
        )}
        {stage === 'select' && changer?.Handles && modifying && (
          <changer.Handles
            key={modifying.id}
            step={modifying as never}
            home={home}
            toScreen={(x, y) => apply(stepsToScreen, x, y)}
            fromScreen={(x, y) => apply(inverse(stepsToScreen), x, y)}
            pointer={null}
          />
        )}
        {stage === 'select' && <PathShown toScreen={(x, y) => apply(stepsToScreen, x, y)} />}
        {stage === 'edge' && (
          <EdgeHandles home={home} toScreen={(x, y) => apply(stepsToScreen, x, y)} pointer={pointerOnScreen} />
        )}
        {stage === 'compose' && <hand.Handles project={project} map={map} pointer={pointerOnScreen} />}
        {stage === 'match' && <HorizonOver project={project} map={map} />}
        <GuidesOver project={project} map={map} />
        <SnapLines map={stage === 'compose' || stage === 'match' ? map : stepsToScreen} />
        <DividerOver size={size} map={toScreen} left={keptBeside ? 'kept' : 'before'} />
      </svg>
    </PictureView.Provider>
  )
}
