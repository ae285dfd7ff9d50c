'use client'
/** Paths kept with the project. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import { parseStep } from '@/core/formats/recipe'
import { addStep, changePath, clipToPath, layerById, putSteps, removePath, savePath } from '@/document/edits'
import { type Project, type RecipeHome } from '@/document/records'
import { problemOf } from '@/ui/finders/bezier/Panel'
import { Button, IconButton } from '@/ui/primitives/Button'
import { Slider } from '@/ui/primitives/Slider'
import { act, get, set } from '@/ui/store/bench'
import { askEngine } from '@/ui/store/rendering'
import { Name, heading, small } from './savedRow'

/** Pieces of the selection smaller than this (px²) make no part of a path. */
const LEAST_PART = 4
const FIRST_TOLERANCE = 0.8

export function Paths({ project, home }: { project: Project; home: RecipeHome }) {
  const layer = layerById(project, project.activeLayer)
  const asStep = (d: string, name: string) => {
    const id = crypto.randomUUID()
    act(`Use ${name}`, addStep(home, parseStep({ kind: 'path', id, name: 'Bézier', d })))
    set({ openStep: id, finder: 'bezier', drawing: null, node: null })
  }
  return (
    <section aria-label="Paths">
      <h3 className={heading}>Paths</h3>
      <ul>
        {project.paths.map((path) => (
          <li
            key={path.id}
            className="py-0.5"
            data-kept={path.name}
            onPointerEnter={() => set({ pathShown: path.d })}
            onPointerLeave={() => set({ pathShown: null })}
          >
            <div className="flex items-center gap-1">
              <Name name={path.name} rename={(next) => act(`Rename to ${next}`, changePath(path.id, { name: next }))} />
              <Button className={small} onClick={() => asStep(path.d, path.name)}>
                Select
              </Button>
              <Button
                className={small}
                why={layer ? undefined : 'Choose a layer first.'}
                onClick={() => {
                  act(
                    `Clip ${layer!.name} to ${path.name}`,
                    clipToPath(
                      layer!.id,
                      parseStep({ kind: 'path', id: crypto.randomUUID(), name: 'Bézier', d: path.d }),
                    ),
                  )
                  toast.success(
                    `${layer!.name} shows what lies inside ${path.name}; the path stays editable as the mask’s step.`,
                  )
                }}
              >
                Clip layer
              </Button>
              <IconButton
                label={`Remove ${path.name}`}
                onClick={() => {
                  act(`Remove ${path.name}`, removePath(path.id))
                  set({ pathShown: null })
                }}
              >
                <Trash2 size={14} />
              </IconButton>
            </div>
          </li>
        ))}
        {project.paths.length === 0 && <li className="py-0.5 text-xs text-[var(--muted)]">None yet.</li>}
      </ul>
      <FromSelection
        count={project.paths.length}
        home={home}
        empty={!project.selection.steps.length && home.kind === 'selection'}
      />
      <FromData count={project.paths.length} />
    </section>
  )
}

/** The selection traced to a path, seen over the picture while its tolerance is chosen. */
function FromSelection({ count, home, empty }: { count: number; home: RecipeHome; empty: boolean }) {
  const [tolerance, setTolerance] = useState(FIRST_TOLERANCE),
    [busy, setBusy] = useState(false),
    [traced, setTraced] = useState<string | null>(null)
  const trace = async (next: number) => {
    setTolerance(next)
    setBusy(true)
    try {
      const d = await askEngine((engine, request) => engine.trace(request, next, LEAST_PART))
      if (d === null) return // a newer one is on its way
      if (problemOf(d)) {
        toast.error(
          'This selection has too intricate an edge for one path: take a larger tolerance, or smooth it and drop its specks first.',
        )
        setTraced(null)
        set({ pathShown: null })
      } else if (!d) {
        toast('Nothing is selected to the half: there is no edge to trace.')
      } else {
        setTraced(d)
        set({ pathShown: d })
      }
    } catch (error) {
      toast.error(`The edge could not be traced: ${sentenceOf(error)}`)
    } finally {
      setBusy(false)
    }
  }
  const points = traced ? (traced.match(/[MLC]/g)?.length ?? 0) : 0
  const put = () => {
    setTraced(null)
    set({ pathShown: null })
  }
  const why = empty ? 'Select something first.' : busy ? 'Tracing …' : undefined
  if (traced === null)
    return (
      <Button
        className={`${small} mt-1`}
        why={why}
        onClick={() => {
          void trace(tolerance)
        }}
      >
        Make the selection a path
      </Button>
    )
  return (
    <div className="mt-1 rounded-lg border border-[var(--line)] p-2" data-traced={points}>
      <Slider
        label="Tolerance"
        value={tolerance}
        min={0.2}
        max={20}
        step={0.1}
        digits={1}
        unit="px"
        curve={2}
        fallback={FIRST_TOLERANCE}
        onPreview={setTolerance}
        onSettle={(v) => {
          void trace(v)
        }}
      />
      <p className="text-xs text-[var(--muted)]">{busy ? 'Tracing …' : `${points} points`}</p>
      <div className="mt-1 flex gap-1">
        <Button
          className={small}
          onClick={() => {
            act('Save path', savePath(crypto.randomUUID(), `Path ${count + 1}`, traced))
            put()
          }}
        >
          Save path
        </Button>
        <Button
          className={small}
          onClick={() => {
            const id = crypto.randomUUID()
            act(
              'Path in place of the steps',
              putSteps(home, [parseStep({ kind: 'path', id, name: 'Bézier', d: traced })], true),
            )
            set({ openStep: id, finder: 'bezier' })
            put()
          }}
        >
          In place of the steps
        </Button>
        <Button className={small} onClick={put}>
          Leave it
        </Button>
      </div>
    </div>
  )
}

function FromData({ count }: { count: number }) {
  const [d, setD] = useState('')
  const problem = d.trim() ? problemOf(d.trim()) : undefined
  return (
    <form
      className="mt-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        if (d.trim() && !problem && get().project) {
          act('Put in path', savePath(crypto.randomUUID(), `Path ${count + 1}`, d.trim()))
          setD('')
        }
      }}
    >
      <div className="flex gap-1">
        <input
          aria-label="SVG path data to keep"
          placeholder="SVG path data, M … Z"
          value={d}
          spellCheck={false}
          onChange={(event) => setD(event.target.value)}
          onKeyDown={(event) => event.stopPropagation()}
          className="h-7 min-w-0 flex-1 rounded-md border border-[var(--line-strong)] bg-[var(--field)] px-1.5 font-mono text-[11px]"
        />
        <Button className={small} type="submit" why={d.trim() ? problem : 'Put in path data first.'}>
          Add
        </Button>
      </div>
      {problem && (
        <p role="alert" className="mt-0.5 text-xs text-[var(--error)]">
          {problem}
        </p>
      )}
    </form>
  )
}
