import { useState } from 'react'
import { toast } from 'sonner'
import { parseStep } from '@/core/formats/recipe'
import { type StepOfKind } from '@/core/steps/registry'
import { PathError } from '@/core/vector/readPath'
import { pathData, subpathsOf } from '@/core/vector/path'
import { changeStep, savePath } from '@/document/edits'
import { Button } from '@/ui/primitives/Button'
import { act, get, set, useBench } from '@/ui/store/bench'
import { type PanelProps } from '../finder'
import { AntialiasSwitch } from '../marking/AntialiasSwitch'
import { converted, isSmooth, openEnd, type Subpaths, switchedClosed, withoutNode } from './nodes'

/** What can be done with the chosen point and the whole path; its data to copy, or to put in. */
export function Panel({ step, home }: PanelProps<StepOfKind<'path'>>) {
  const chosen = useBench((state) => state.node)
  const path = subpathsOf(step.d),
    node = chosen ? path[chosen.subpath]?.nodes[chosen.index] : undefined
  const put = (label: string, next: Subpaths) => act(label, changeStep(home, step.id!, { d: pathData(next) }))
  const none = 'Press a point of the path first.',
    small = '!min-h-7 !px-2 !text-xs'
  return (
    <>
      <p className="text-xs leading-relaxed text-[var(--muted)]">
        {node
          ? `Point ${chosen!.index + 1}: ${node.into || node.out ? (isSmooth(node) ? 'smooth' : 'with handles apart') : 'a corner'}.`
          : 'Press a point to see its handles, press on the path to add one, double-click one to convert it.'}{' '}
        Alt moves one handle alone.
      </p>
      <div className="flex flex-wrap gap-1">
        <Button
          className={small}
          why={node ? undefined : none}
          onClick={() => put('Convert point', converted(path, chosen!.subpath, chosen!.index))}
        >
          {node?.into || node?.out ? 'Make corner' : 'Make smooth'}
        </Button>
        <Button
          className={small}
          why={node ? undefined : none}
          onClick={() => {
            set({ node: null })
            const rest = withoutNode(path, chosen!.subpath, chosen!.index)
            if (rest.length) put('Remove point', rest)
            else toast('It is the last point: remove the step instead.')
          }}
        >
          Remove point
        </Button>
        <Button
          className={small}
          onClick={() => {
            const open = openEnd(path),
              at = open ? path.length - 1 : (chosen?.subpath ?? path.length - 1)
            put(open ? 'Close path' : 'Open path', switchedClosed(path, at))
            set({ drawing: null })
          }}
        >
          {openEnd(path) ? 'Close path' : 'Open path'}
        </Button>
        <Button
          className={small}
          onClick={() => {
            const { project } = get()
            act('Save path', savePath(crypto.randomUUID(), `Path ${(project?.paths.length ?? 0) + 1}`, step.d))
            toast.success('Saved with the project: find it beside the selection, at the top of the list.')
          }}
        >
          Save path
        </Button>
      </div>
      <AntialiasSwitch step={step} home={home} />
      <PathText d={step.d} put={(d) => act('Put in path data', changeStep(home, step.id!, { d }))} />
    </>
  )
}

/** SVG path data, to copy out and to put in. */
function PathText({ d, put }: { d: string; put: (d: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null)
  const problem = typed === null ? undefined : problemOf(typed)
  return (
    <details className="text-[13px]">
      <summary className="cursor-pointer text-xs text-[var(--muted)]">SVG path data</summary>
      <textarea
        aria-label="SVG path data"
        value={typed ?? d}
        spellCheck={false}
        rows={4}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => event.stopPropagation()}
        aria-invalid={problem !== undefined}
        className="mt-1 w-full resize-y rounded-md border border-[var(--line-strong)] bg-[var(--field)] p-1.5 font-mono text-[11px] aria-[invalid=true]:border-[#a31515]"
      />
      {problem && (
        <p role="alert" className="text-xs text-[var(--error)]">
          {problem}
        </p>
      )}
      <div className="flex gap-1">
        <Button
          className="!min-h-7 !px-2 !text-xs"
          onClick={() => {
            void navigator.clipboard.writeText(d).then(
              () => toast.success('Path data copied.'),
              () => toast.error('The browser does not let this page write to the clipboard.'),
            )
          }}
        >
          Copy
        </Button>
        <Button
          className="!min-h-7 !px-2 !text-xs"
          why={typed === null || typed === d ? 'Change the data first.' : problem}
          onClick={() => {
            put(typed!.trim())
            setTyped(null)
          }}
        >
          Use this data
        </Button>
      </div>
    </details>
  )
}

/** What is wrong with path data; undefined when it can be used. */
export function problemOf(d: string): string | undefined {
  try {
    subpathsOf(d)
    parseStep({ kind: 'path', d })
    return undefined
  } catch (error) {
    return error instanceof PathError
      ? `This is no path: ${error.message}.`
      : error instanceof Error
        ? error.message
        : String(error)
  }
}
