'use client'
/** Selections kept under names. */
import { LIMITS } from '@/document/limits'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { parseStep } from '@/core/formats/recipe'
import { COMBINE_OPS, type CombineOp } from '@/core/raster/coverage'
import { addStep, isUsed, removeSaved, renameSaved } from '@/document/edits'
import { type Project, type RecipeHome } from '@/document/records'
import { Button, IconButton } from '@/ui/primitives/Button'
import { act, set } from '@/ui/store/bench'
import { saveProblem, saveSelectionNow } from '@/ui/store/makeOf'
import { OP_WORDS, OpGlyph } from './OpGlyph'
import { Name, heading, small } from './savedRow'

export function Selections({ project, home }: { project: Project; home: RecipeHome }) {
  const [name, setName] = useState('')
  const why = saveProblem(),
    save = () => {
      saveSelectionNow(name)
      setName('')
    }
  const load = (id: string, label: string, op: CombineOp) => {
    const step = crypto.randomUUID()
    act(`Load ${label}`, addStep(home, parseStep({ kind: 'saved', id: step, name: label, selection: id, op })))
    set({ openStep: step })
  }
  return (
    <section aria-label="Saved selections">
      <h3 className={heading}>Selections</h3>
      <ul>
        {project.saved.map((saved) => (
          <li key={saved.id} className="flex items-center gap-1 py-0.5" data-kept={saved.name}>
            <Name name={saved.name} rename={(next) => act(`Rename to ${next}`, renameSaved(saved.id, next))} />
            {COMBINE_OPS.map((op) => (
              <IconButton
                key={op}
                label={`Load ${saved.name}: it ${OP_WORDS[op]}`}
                why={home.kind === 'mask' ? 'A mask keeps its own steps: load into the selection.' : undefined}
                onClick={() => load(saved.id, saved.name, op)}
              >
                <OpGlyph op={op} />
              </IconButton>
            ))}
            <IconButton
              label={`Remove ${saved.name}`}
              why={isUsed(project, saved.id) ? 'A step uses it: remove that step first.' : undefined}
              onClick={() => act(`Remove ${saved.name}`, removeSaved(saved.id))}
            >
              <Trash2 size={14} />
            </IconButton>
          </li>
        ))}
        {project.saved.length === 0 && (
          <li className="py-0.5 text-xs text-[var(--muted)]">
            None yet. A saved selection keeps its steps and can be loaded into any later one.
          </li>
        )}
      </ul>
      <form
        className="mt-1 flex gap-1"
        onSubmit={(event) => {
          event.preventDefault()
          if (!why) save()
        }}
      >
        <input
          aria-label="Name of the selection"
          value={name}
          maxLength={LIMITS.name}
          placeholder={`Selection ${project.saved.length + 1}`}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => event.stopPropagation()}
          className="h-7 min-w-0 flex-1 rounded-md border border-[var(--line-strong)] bg-[var(--field)] px-1.5 text-[13px]"
        />
        <Button className={small} why={why} type="submit">
          Save selection
        </Button>
      </form>
    </section>
  )
}
