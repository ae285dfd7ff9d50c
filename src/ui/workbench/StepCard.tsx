'use client'
/** One step of the list: what it is, how it combines, its values when it is open. */
import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { Eye, EyeOff, GripVertical, Trash2 } from 'lucide-react'
import { memo, useEffect, useRef } from 'react'
import { COMBINE_OPS } from '@/core/raster/coverage'
import { type FindingStep, isFinding, opOf, type Step } from '@/core/steps/registry'
import { changeStep, lookAgain, removeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/types'
import { pageOfStep } from '@/ui/finders/registry'
import { modifierPage, stepName } from '@/ui/modifiers/registry'
import { Bitmap } from '@/ui/primitives/Bitmap'
import { IconButton, Tip } from '@/ui/primitives/Button'
import { OP_WORDS, OpGlyph } from './OpGlyph'
import { act, set, useBench } from '@/ui/store/bench'
import { renewSelection } from '@/ui/store/rendering'
import { StepValues } from './StepValues'

function summaryOf(step: Step): string {
  if (!isFinding(step)) return modifierPage(step.kind)?.summary(step as never) ?? ''
  const extras = [
    step.feather > 0 && `feather ${step.feather}`,
    step.grow !== 0 && `grow ${step.grow}`,
    step.invert && 'inverted',
  ].filter(Boolean)
  return [pageOfStep(step)?.summary(step), ...extras].join(' · ')
}

export const StepCard = memo(function StepCard({
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
          <OlderNote id={step.id!} />
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

/** What the finder says of what it found. */
function StepNote({ id }: { id: string }) {
  const note = useBench((state) => state.notes[id])
  return note ? (
    <p role="status" data-note className="text-xs leading-relaxed text-[var(--ink)]">
      {note}
    </p>
  ) : null
}

/** Says, above the values, that what is shown is not what today's algorithms would find. */
function OlderNote({ id }: { id: string }) {
  const older = useBench((state) => state.older.includes(id))
  return older ? (
    <p role="status" className="pb-1 text-xs leading-relaxed text-[var(--muted)]">
      This was found by an earlier version and is kept as it was.{' '}
      <button type="button" className="font-semibold text-[var(--accent-text)]" onClick={renewSelection}>
        Find it anew
      </button>
    </p>
  ) : null
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
