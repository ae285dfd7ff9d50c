'use client'
import { Trash2 } from 'lucide-react'
import { COMBINE_OPS } from '@/core/raster/coverage'
import { type FindingStep, isFinding, opOf, type Step } from '@/core/steps/registry'
import { changeStep, lookAgain, recipeAt, removeStep } from '@/document/edits'
import { lookedOtherwise } from '@/document/tree'
import { type RecipeHome } from '@/document/records'
import { stepName } from '@/ui/modifiers/registry'
import { IconButton, Tip } from '@/ui/primitives/Button'
import { Switch } from '@/ui/primitives/Choice'
import { act, closeStep, shownProject, useBench } from '@/ui/store/bench'
import { removed } from '@/ui/store/removed'
import { renewSelection } from '@/ui/store/rendering'
import { OP_WORDS, OpGlyph } from '../list/OpGlyph'
import { InspectorBody, InspectorHead } from './parts'
import { StepValues } from './StepValues'
import { keyHint } from '@/ui/store/ownKeys'
import { withId } from '@/document/withId'

/** @param of the layer whose mask the step is part of */
export function StepInspector({ step, home, of }: { step: Step; home: RecipeHome; of: string | undefined }) {
  const name = stepName(step),
    change = (label: string, values: object) => act(label, changeStep(home, step.id!, values))
  const first = useBench((state) => {
    const project = shownProject(state)
    return project && recipeAt(project, home)?.steps.find(isFinding)?.id === step.id
  })
  return (
    <>
      <InspectorHead name={name} of={of && `mask of ${of}`}>
        {isFinding(step) && !first && <Combines step={step} change={change} />}
        <IconButton
          label={`Remove ${name}`}
          keys={keyHint('removeStep', 'Delete')}
          onClick={() => {
            removed(`Remove ${name}`, name, removeStep(home, step.id!))
            closeStep()
          }}
        >
          <Trash2 size={15} />
        </IconButton>
      </InspectorHead>
      <InspectorBody data-step-card={step.kind}>
        <OlderNote id={step.id!} />
        <StepValues step={step} home={home} />
        <StepNote id={step.id!} />
        <Changed step={step} home={home} name={name} />
        {isFinding(step) && (
          <Switch
            label="Invert only this step"
            checked={step.invert}
            onChange={(invert) => change('Invert step', { invert })}
          />
        )}
      </InspectorBody>
    </>
  )
}

/** How it goes together with the steps above it. */
function Combines({ step, change }: { step: FindingStep; change: (label: string, values: object) => void }) {
  const now = opOf(step)
  return (
    <span role="radiogroup" aria-label="How this step combines" className="flex">
      {COMBINE_OPS.map((op) => (
        <Tip key={op} text={`This step ${OP_WORDS[op]}`}>
          <button
            type="button"
            role="radio"
            aria-checked={now === op}
            aria-label={`This step ${OP_WORDS[op]}`}
            data-op={op}
            onClick={() => change('Change how a step combines', { op, ...('keep' in step ? { keep: true } : {}) })}
            className="grid size-8 place-items-center rounded-md hover:bg-[var(--hover)] aria-checked:bg-[var(--focused)]"
          >
            <OpGlyph op={op} />
          </button>
        </Tip>
      ))}
    </span>
  )
}

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
        Find it again
      </button>
    </p>
  ) : null
}

/** Says that the picture a step of the selection was made on has changed since. Only what is stored can have been. */
function Changed({ step, home, name }: { step: Step; home: RecipeHome; name: string }) {
  const changed = useBench(({ project }) => {
    const stored = withId(project?.selection.steps, step.id)
    return home.kind === 'selection' && project && stored ? lookedOtherwise(project, stored) : false
  })
  return changed ? (
    <p role="status" data-looked="otherwise" className="text-xs leading-relaxed">
      It keeps the picture it was made on, which has changed since.{' '}
      <button
        type="button"
        className="underline underline-offset-2"
        onClick={() => act(`Look again: ${name}`, lookAgain(home, step.id!))}
      >
        Look again
      </button>
    </p>
  ) : null
}
