'use client'
/** One step of the list: how it combines, what it is, its most telling value, whether it counts. */
import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { Eye, EyeOff } from 'lucide-react'
import { memo, useEffect, useRef } from 'react'
import { isFinding, opOf, type Step } from '@/core/steps/registry'
import { changeStep } from '@/document/edits'
import { type RecipeHome } from '@/document/records'
import { pageOfStep } from '@/ui/finders/registry'
import { modifierPage, stepName, toolOf } from '@/ui/modifiers/registry'
import { Bitmap } from '@/ui/primitives/Bitmap'
import { IconButton } from '@/ui/primitives/Button'
import { act, closeStep, workOnStep } from '@/ui/store/bench'
import { OP_WORDS, OpGlyph } from './OpGlyph'

function summaryOf(step: Step): string {
  if (!isFinding(step)) return modifierPage(step.kind)?.summary(step as never) ?? ''
  const extras = [
    step.feather > 0 && `feather ${step.feather}`,
    step.grow !== 0 && `grow ${step.grow}`,
    step.invert && 'inverted',
  ].filter(Boolean)
  return [pageOfStep(step)?.summary(step), ...extras].join(' · ')
}

export const StepRow = memo(function StepRow({
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
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: step.id! })
  const name = stepName(step),
    op = isFinding(step) ? opOf(step) : null
  const row = useRef<HTMLLIElement | null>(null)
  useEffect(() => {
    if (!open) return
    // It asks for a layout: with the frame's own, not in the click's turn.
    const frame = requestAnimationFrame(() => row.current?.scrollIntoView({ block: 'nearest' }))
    return () => cancelAnimationFrame(frame)
  }, [open])
  const toggle = () => {
    if (open) closeStep()
    else workOnStep(home, step.id!, toolOf(step))
  }
  return (
    <li
      ref={(element) => {
        setNodeRef(element)
        row.current = element
      }}
      {...listeners}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      data-step={step.kind}
      data-open={open || undefined}
      className={`flex h-[34px] items-center gap-2 pr-2 pl-4 hover:bg-[var(--hover)] ${open ? 'bg-[var(--focused)] hover:bg-[var(--focused)]' : ''} ${isDragging ? 'relative z-10 bg-[var(--panel)] shadow-lg' : ''}`}
    >
      <span
        className="grid w-[24px] shrink-0 place-items-center text-[var(--muted)]"
        title={op ? (first ? 'The first step starts the selection' : `This step ${OP_WORDS[op]}`) : undefined}
      >
        {op ? <OpGlyph op={op} /> : <span aria-hidden>∘</span>}
      </span>
      <button
        type="button"
        {...attributes}
        role="button"
        aria-pressed={open}
        aria-label={`${name}${op && !first ? `, ${OP_WORDS[op]}` : ''}`}
        title={`${summaryOf(step)}. Drag to another place in the order`}
        onClick={toggle}
        className={`flex h-full min-w-0 flex-1 items-center gap-2 text-left ${step.hidden ? 'opacity-50' : ''}`}
      >
        {op && <Bitmap bitmap={thumbnail} width={30} height={22} label={`What ${name} finds by itself`} />}
        <span className={`max-w-[60%] shrink-0 truncate text-[13px] ${open ? 'font-semibold' : 'font-medium'}`}>
          {name}
        </span>
        <span className="min-w-0 flex-1 truncate text-right text-xs text-[var(--muted)]">
          {changed && (
            <span title="The picture it was made on has changed since" aria-label="made on an earlier picture">
              ↺{' '}
            </span>
          )}
          {summaryOf(step).split(' · ')[0]}
        </span>
      </button>
      <IconButton
        label={step.hidden ? `Show ${name}` : `Hide ${name}`}
        className="!size-7"
        onClick={() =>
          act(step.hidden ? `Show ${name}` : `Hide ${name}`, changeStep(home, step.id!, { hidden: !step.hidden }))
        }
      >
        {step.hidden ? <EyeOff size={15} /> : <Eye size={15} />}
      </IconButton>
    </li>
  )
})
