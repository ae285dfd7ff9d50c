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
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { ChevronDown, Ellipsis, Eye, EyeOff, GripVertical, Plus, Trash2 } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import { memo, type RefObject, useEffect, useMemo, useRef, useState } from 'react'
import { parseStep } from '@/core/formats/recipe'
import { COMBINE_OPS } from '@/core/raster/coverage'
import { type FindingStep, isFinding, opOf, type Step } from '@/core/steps/registry'
import { addStep, changeStep, layerById, lookAgain, moveStep, removeStep } from '@/document/edits'
import { lookedOtherwise } from '@/document/tree'
import { type RecipeHome, SELECTION } from '@/document/types'
import { pageOfStep } from '@/ui/finders/registry'
import { MODIFIER_PAGES, modifierPage, stepName } from '@/ui/modifiers/registry'
import { Bitmap, IconButton, Slider, Tip } from '@/ui/primitives/controls'
import { COMMANDS, runCommand, shownKey } from './commands'
import { OP_WORDS, OpGlyph } from './OpGlyph'
import { act, preview, set, shownProject, shownSteps, useBench } from '@/ui/store/bench'
import { type Rendering, renewSelection } from '@/ui/store/rendering'
import { later } from '@/ui/primitives/later'
import { useSameList } from '@/ui/primitives/useSameList'

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

/** Whose steps these are; where there are masks, a menu to see others'. */
function HomeTitle({ home, name }: { home: RecipeHome; name: string }) {
  const layers = useBench(shownProject)?.layers.filter((layer) => layer.mask) ?? []
  const choose = (next: RecipeHome) => set({ home: next, openStep: null, result: null })
  if (!layers.length) return <h2 className="mr-auto truncate text-[13px] font-semibold">{name}</h2>
  return (
    <DropdownMenu.Root>
      <h2 className="mr-auto min-w-0 text-[13px] font-semibold">
        <DropdownMenu.Trigger
          aria-label={`${name}; show other steps`}
          className="flex max-w-full items-center gap-1 rounded-md px-1.5 py-1 hover:bg-[var(--hover)]"
        >
          <span className="truncate">{name}</span>
          <ChevronDown size={14} className="shrink-0" />
        </DropdownMenu.Trigger>
      </h2>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={4} className="menu">
          <DropdownMenu.Item
            className="menu-item"
            disabled={home.kind === 'selection'}
            onSelect={() => choose(SELECTION)}
          >
            Steps of the selection
          </DropdownMenu.Item>
          {[...layers].reverse().map((layer) => (
            <DropdownMenu.Item
              key={layer.id}
              className="menu-item"
              disabled={home.kind === 'mask' && home.layer === layer.id}
              onSelect={() => choose({ kind: 'mask', layer: layer.id })}
            >
              Steps of the mask of {layer.name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

/** What concerns all steps at once. */
function StepsMenu() {
  const item = (id: string, name = COMMANDS.find((c) => c.id === id)!.name) => (
    <DropdownMenu.Item className="menu-item flex justify-between gap-6" onSelect={() => runCommand(id)}>
      {name}
      <kbd className="font-mono text-[11px] text-[var(--muted)]">
        {shownKey(COMMANDS.find((c) => c.id === id)!.keys?.[0] ?? '')}
      </kbd>
    </DropdownMenu.Item>
  )
  return (
    <DropdownMenu.Root>
      <Tip text="More for all steps">
        <DropdownMenu.Trigger
          aria-label="More for all steps"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <Ellipsis size={16} />
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="menu">
          {item('copySteps')}
          {item('pasteSteps', 'Paste steps')}
          {item('last')}
          {item('all')}
          {item('clear', 'Remove all steps')}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

function AddModifier({ home }: { home: RecipeHome }) {
  const add = (kind: string, name: string, values: object) => {
    const id = crypto.randomUUID()
    act(name, addStep(home, parseStep({ kind, id, ...values })))
    set({ openStep: id })
  }
  return (
    <DropdownMenu.Root>
      <Tip text="Add a step that changes what the steps above it made">
        <DropdownMenu.Trigger
          aria-label="Add a changing step"
          className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)]"
        >
          <Plus size={16} />
        </DropdownMenu.Trigger>
      </Tip>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="menu">
          {MODIFIER_PAGES.map(({ kind, name, start }) => (
            <DropdownMenu.Item key={kind} className="menu-item" onSelect={() => add(kind, name, start)}>
              {name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}

function summaryOf(step: Step): string {
  if (!isFinding(step)) return modifierPage(step.kind)?.summary(step as never) ?? ''
  const extras = [
    step.feather > 0 && `feather ${step.feather}`,
    step.grow !== 0 && `grow ${step.grow}`,
    step.invert && 'inverted',
  ].filter(Boolean)
  return [pageOfStep(step)?.summary(step), ...extras].join(' · ')
}

const StepCard = memo(function StepCard({
  step,
  home,
  first,
  open,
  changed,
  thumbnail,
}: {
  step: Step
  home: RecipeHome
  first: boolean
  open: boolean
  /** The picture it was made on has changed since. */
  changed: boolean
  thumbnail: ImageBitmap | undefined
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: step.id!,
  })
  const name = stepName(step)
  const card = useRef<HTMLLIElement | null>(null)
  useEffect(() => {
    if (open) card.current?.scrollIntoView({ block: 'nearest' })
  }, [open])
  const change = (label: string, values: object) => act(label, changeStep(home, step.id!, values))
  const finder = isFinding(step) ? pageOfStep(step)?.id : undefined
  const toggle = () => set({ openStep: open ? null : step.id!, drawing: null, ...(finder ? { finder } : {}) })
  return (
    <li
      ref={(element) => {
        setNodeRef(element)
        card.current = element
      }}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`border-b border-[var(--line)] ${open ? 'bg-[var(--raised)]' : ''} ${isDragging ? 'relative z-10 shadow-lg' : ''}`}
    >
      <div className={`flex h-[58px] items-center gap-2 pr-2 pl-1 ${step.hidden ? 'opacity-50' : ''}`}>
        <button
          ref={setActivatorNodeRef}
          type="button"
          aria-label={`Move ${name}`}
          {...attributes}
          {...listeners}
          className="grid h-8 w-5 shrink-0 cursor-grab place-items-center text-[var(--muted)]"
        >
          <GripVertical size={14} />
        </button>
        {isFinding(step) ? (
          <OpButton step={step} first={first} change={change} />
        ) : (
          <span className="w-[30px] shrink-0 text-center text-[var(--muted)]" aria-hidden>
            ∘
          </span>
        )}
        {isFinding(step) && <Bitmap bitmap={thumbnail} width={42} height={30} label={`What ${name} finds by itself`} />}
        <button
          type="button"
          aria-expanded={open}
          onClick={toggle}
          className="min-w-0 flex-1 rounded-md py-1 text-left"
        >
          <span className="block truncate text-[13px] font-semibold">{name}</span>
          <span className="block truncate text-xs text-[var(--muted)]">
            {changed && (
              <span title="The picture it was made on has changed since" aria-label="made on an earlier picture">
                ↺{' '}
              </span>
            )}
            {summaryOf(step)}
          </span>
        </button>
        <IconButton
          label={step.hidden ? `Show ${name}` : `Hide ${name}`}
          onClick={() => change(step.hidden ? `Show ${name}` : `Hide ${name}`, { hidden: !step.hidden })}
        >
          {step.hidden ? <EyeOff size={16} /> : <Eye size={16} />}
        </IconButton>
      </div>
      {open && (
        <div className="space-y-1.5 px-4 pb-2" data-step-card={step.kind}>
          <StepValues step={step} home={home} />
          <StepNote id={step.id!} />
          {changed && (
            <p role="status" data-looked="otherwise" className="text-xs leading-relaxed text-[var(--accent-text)]">
              It keeps the picture it was made on, which has changed since.{' '}
              <button
                type="button"
                className="underline underline-offset-2"
                onClick={() => act(`Look again: ${name}`, lookAgain(home, step.id!))}
              >
                Look again
              </button>
            </p>
          )}
          <div className="-mb-1 flex items-center justify-between">
            {isFinding(step) ? (
              <button
                type="button"
                className="text-xs text-[var(--muted)] underline underline-offset-2"
                onClick={() => change('Invert step', { invert: !step.invert })}
              >
                {step.invert ? 'not inverted' : 'invert only this step'}
              </button>
            ) : (
              <span />
            )}
            <IconButton
              label={`Remove ${name}`}
              keys="Del"
              onClick={() => {
                act(`Remove ${name}`, removeStep(home, step.id!))
                set({ openStep: null })
              }}
            >
              <Trash2 size={15} />
            </IconButton>
          </div>
        </div>
      )}
    </li>
  )
})

/** What the finder says of what it found, and by which version it was found where that is not today's. */
function StepNote({ id }: { id: string }) {
  const note = useBench((state) => state.notes[id]),
    older = useBench((state) => state.older.includes(id))
  return (
    <>
      {note && (
        <p role="status" data-note className="text-xs leading-relaxed text-[var(--accent-text)]">
          {note}
        </p>
      )}
      {older && (
        <p role="status" className="text-xs leading-relaxed text-[var(--muted)]">
          This was found by an earlier version and is kept as it was.{' '}
          <button type="button" className="font-semibold text-[var(--accent-text)]" onClick={renewSelection}>
            Find it anew
          </button>
        </p>
      )}
    </>
  )
}

function OpButton({
  step,
  first,
  change,
}: {
  step: FindingStep
  first: boolean
  change: (label: string, values: object) => void
}) {
  const op = opOf(step),
    next = COMBINE_OPS[(COMBINE_OPS.indexOf(op) + 1) % COMBINE_OPS.length]
  return (
    <Tip
      text={first ? 'The first step starts the selection' : `This step ${OP_WORDS[op]}. Click: it ${OP_WORDS[next]}.`}
    >
      <button
        type="button"
        aria-label={`This step ${OP_WORDS[op]}; change it`}
        data-op={op}
        onClick={() => change('Change how a step combines', { op: next, ...('keep' in step ? { keep: true } : {}) })}
        className="grid h-8 w-[30px] shrink-0 place-items-center rounded-md hover:bg-[var(--hover)]"
      >
        <OpGlyph op={op} />
      </button>
    </Tip>
  )
}

function StepValues({ step, home }: { step: Step; home: RecipeHome }) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  const slider = (
    label: string,
    name: string,
    value: number,
    min: number,
    max: number,
    curve: number,
    digits: number,
  ) => (
    <Slider
      label={label}
      value={value}
      min={min}
      max={max}
      step={digits ? 0.1 : 1}
      digits={digits}
      unit="px"
      fallback={0}
      curve={curve}
      onPreview={(v) => preview(edit({ [name]: v }))}
      onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [name]: v }))}
    />
  )
  if (!isFinding(step)) {
    const page = modifierPage(step.kind)
    return (
      <>
        {page?.values.map(({ field, label, min, max, digits, unit, fallback, curve, factor = 1 }) => (
          <Slider
            key={field}
            label={label}
            value={(step as never as Record<string, number>)[field] * factor}
            min={min}
            max={max}
            step={10 ** -digits}
            digits={digits}
            unit={unit}
            fallback={fallback}
            curve={curve}
            onPreview={(v) => preview(edit({ [field]: v / factor }))}
            onSettle={(v) => act(`Change ${label.toLowerCase()}`, edit({ [field]: v / factor }))}
          />
        ))}
        {page?.Panel && <page.Panel step={step as never} home={home} />}
        <p className="text-xs leading-relaxed text-[var(--muted)]">{page?.words}</p>
      </>
    )
  }
  const page = pageOfStep(step)
  return (
    <>
      {page && <page.Panel step={step} home={home} />}
      {slider('Feather', 'feather', step.feather, 0, 400, 2.4, 1)}
      {slider('Grow', 'grow', step.grow, -200, 200, 2, 1)}
    </>
  )
}
