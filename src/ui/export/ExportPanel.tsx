'use client'
/** What goes out, as what file; the last choices are remembered. */
import { ClipboardCopy, Download, Images } from 'lucide-react'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { toast } from 'sonner'
import { type ExportRequest } from '@/document/exchanged'
import { layerById } from '@/document/edits'
import { FORMATS, keepsAlpha } from '@/document/fileFormats'
import { LIMITS } from '@/document/limits'
import { type Layer, type Project } from '@/document/records'
import { windowSize } from '@/document/window'
import { Button, Tip } from '@/ui/primitives/Button'
import { saveFile, saveJson } from '@/ui/primitives/saveFile'
import { rove } from '@/ui/primitives/roving'
import { createBatch } from '@/ui/store/batches'
import { shownProject, shownSteps, useBench } from '@/ui/store/bench'
import { runExport } from '@/ui/store/exports'
import { say } from '@/ui/store/say'
import { choose, useChoices } from './choices'
import { estimatedBytes, shownBytes } from './estimate'
import { Depth, PictureValues, type Row } from './PictureValues'
import { planOf, stepsAlone } from './toBatch'

function rowsOf(project: Project, layer: Layer | undefined, chosen: readonly Layer[], steps: number): Row[] {
  const masked = layer?.mask ? layer : undefined,
    nothing = masked || project.selection.steps.length ? undefined : 'Select something first.'
  const matte = masked ? 'the mask' : 'the selection'
  return [
    {
      what: 'composite',
      name: 'The composite',
      words: 'the visible layers together',
      why: project.layers.length ? undefined : 'There is nothing to export yet.',
    },
    {
      what: 'chosen',
      name: chosen.length > 1 ? `${chosen.length} chosen layers` : `${layer?.name ?? 'A layer'} alone`,
      words: 'only these, on the canvas, transparent elsewhere',
      why: chosen.length ? undefined : 'Choose layers first.',
    },
    {
      what: 'cutout',
      name: layer?.kind === 'picture' ? `${layer.name}, cut out` : 'A picture, cut out',
      words: 'its own size, transparent where its mask hides it, edges in its own colours',
      why: layer?.kind === 'picture' ? undefined : 'Choose the picture to cut out.',
    },
    { what: 'matte', name: `Matte of ${matte}`, words: 'grey: white is selected', why: nothing },
    {
      what: 'outline',
      name: `Outline of ${matte}`,
      words: 'an SVG path along its half-covered line',
      why: nothing,
    },
    {
      what: 'recipe',
      name: 'The steps, as a recipe',
      words: 'JSON for other pictures and the command line',
      why: steps ? undefined : 'There are no steps to save.',
    },
    { what: 'layers', name: 'All layers', words: 'OpenRaster: layers and groups for other programs' },
    { what: 'project', name: 'The whole project', words: 'pictures, steps and history, for another installation' },
  ]
}

export function ExportPanel() {
  const project = useBench(shownProject),
    saving = useBench((state) => state.saving),
    chosenIds = useBench((state) => state.chosen),
    steps = useBench(shownSteps)
  const choices = useChoices()
  const [progress, setProgress] = useState<number | null>(null),
    [name, setName] = useState<string | null>(null)
  const cancelled = useRef(false)
  const router = useRouter()
  if (!project) return null
  const layer = layerById(project, project.activeLayer),
    ids = new Set([...chosenIds, ...(layer ? [layer.id] : [])]),
    chosen = project.layers.filter(({ id }) => ids.has(id))
  const rows = rowsOf(project, layer, chosen, steps.length),
    row = rows.find(({ what }) => what === choices.what)!
  const picture = row.what === 'composite' || row.what === 'chosen' || row.what === 'cutout',
    size = row.what === 'cutout' && layer ? { width: layer.width, height: layer.height } : windowSize(project),
    form = row.what === 'cutout' || row.what === 'chosen' ? 'cutout' : 'composite',
    format = row.what === 'cutout' && !keepsAlpha(choices.cutout) ? 'png' : choices[form]
  const deep = picture && row.what !== 'cutout' && FORMATS[format].deep && choices.depth === 16
  const full = Math.max(size.width, size.height),
    longest = picture && choices.longest !== null && choices.longest < full ? choices.longest : undefined,
    scale = longest ? longest / full : 1
  const shown = {
    width: Math.max(1, Math.round(size.width * scale)),
    height: Math.max(1, Math.round(size.height * scale)),
  }
  const problem =
    row.why ??
    (saving.state === 'waiting' || saving.state === 'gone'
      ? 'Exporting waits until the server has all changes.'
      : undefined)

  const request = (): Omit<ExportRequest, 'project' | 'head'> => ({
    what: row.what === 'chosen' ? 'composite' : (row.what as ExportRequest['what']),
    ...(row.what === 'chosen' ? { layers: [...ids] } : {}),
    ...(row.what === 'cutout' || ((row.what === 'matte' || row.what === 'outline') && layer?.mask)
      ? { layer: layer!.id }
      : {}),
    ...(name?.trim() ? { name: name.trim() } : {}),
    ...(longest ? { longest } : {}),
    ...(deep || (row.what === 'matte' && choices.depth === 16) ? { depth: 16 as const } : {}),
    ...(picture && choices.exif ? { exif: true } : {}),
    format: picture ? format : 'png',
    quality: choices.quality,
    background: '#ffffff',
  })

  /** Runs one export and gives its address. */
  const made = async (what: Omit<ExportRequest, 'project' | 'head'>) => {
    cancelled.current = false
    setProgress(0)
    try {
      const state = await runExport(what, setProgress, () => cancelled.current)
      return state && { ...state, address: `/api/exports/${state.id}/file` }
    } finally {
      setProgress(null)
    }
  }
  const run = async () => {
    if (row.what === 'recipe') {
      saveJson(`${name?.trim() || project.name}.recipe.json`, { version: 1, steps: stepsAlone(steps) })
      return
    }
    const state = await made(request())
    if (!state) return
    saveFile(state.name, state.address)
    toast.success(`${state.name} · ${shownBytes(state.bytes ?? 0)}`)
  }
  /** The clipboard takes the promise while the click still counts. */
  const copy = async () => {
    const png = made({ ...request(), format: 'png', depth: undefined, exif: undefined }).then(async (state) => {
      if (!state) throw new DOMException('Cancelled', 'AbortError')
      return (await fetch(state.address)).blob()
    })
    try {
      await navigator.clipboard.write([new ClipboardItem({ 'image/png': png })])
      toast.success('Copied: paste it where it is wanted.')
    } catch (error) {
      await png.catch(() => {})
      if (!cancelled.current)
        say(
          error instanceof DOMException
            ? new Error('The browser does not let this page write to the clipboard.')
            : error,
        )
    }
  }
  const many = async () => {
    const id = crypto.randomUUID()
    await createBatch(id, `${project.name}, many`, planOf(project))
    router.push(`/batch/${id}`)
  }

  return (
    <>
      <h2 className="mb-2 px-1 text-xs text-[var(--muted)]">What goes out</h2>
      <div
        className="mb-3 grid grid-cols-[minmax(0,1fr)] gap-0.5"
        role="radiogroup"
        aria-label="What goes out"
        onKeyDown={rove}
      >
        {rows.map((each) => (
          <button
            key={each.what}
            type="button"
            role="radio"
            aria-checked={each.what === row.what}
            tabIndex={each.what === row.what ? 0 : -1}
            onClick={() => choose({ what: each.what })}
            className="rounded-lg border border-transparent px-2.5 py-1 text-left text-[13px] hover:bg-[var(--hover)] aria-checked:border-[var(--line-strong)] aria-checked:bg-[var(--chosen)]"
          >
            <span className={each.what === row.what ? 'block font-semibold' : 'block truncate'}>{each.name}</span>
            {each.what === row.what && (
              <span className="text-xs leading-snug text-[var(--muted)]">{each.why ?? each.words}</span>
            )}
          </button>
        ))}
      </div>
      <div className="mb-3 space-y-2.5 px-1 text-[13px]">
        <label className="flex items-center justify-between gap-2">
          Name
          <input
            aria-label="Name of the file"
            value={name ?? ''}
            placeholder={row.what === 'cutout' ? `${layer?.name} cut-out` : project.name}
            maxLength={LIMITS.name}
            onChange={(event) => setName(event.target.value)}
            className="h-7 w-36 min-w-0 rounded-md border border-[var(--line-strong)] bg-[var(--field)] px-2 text-[12.5px]"
          />
        </label>
        {picture && <PictureValues row={row} form={form} format={format} choices={choices} full={full} />}
        {row.what === 'matte' && <Depth depth={choices.depth} />}
        {picture && (
          <p className="text-xs text-[var(--muted)]">
            {shown.width} × {shown.height} px, sRGB, about{' '}
            {shownBytes(estimatedBytes(shown, format, choices.quality, deep ? 16 : 8))}
            {format === 'jpeg' ? '; white where nothing is' : ''}
          </p>
        )}
      </div>
      {progress !== null ? (
        <div className="space-y-2" role="status">
          <div className="h-1.5 overflow-hidden rounded-full bg-[var(--line)]">
            <div
              className="h-full bg-[var(--accent)] transition-[width]"
              style={{ width: `${Math.max(4, progress * 100)}%` }}
            />
          </div>
          <Button
            className="w-full"
            onClick={() => {
              cancelled.current = true
            }}
          >
            Cancel
          </Button>
        </div>
      ) : (
        <div className="grid gap-2">
          <Button tone="accent" why={problem} onClick={() => void run().catch(say)} className="w-full">
            <Download size={16} />
            Export
          </Button>
          <div className="grid auto-cols-fr grid-flow-col gap-2">
            {picture && (
              <Tip text="Copy to the clipboard" side="top">
                <Button aria-label="Copy to the clipboard" why={problem} onClick={() => void copy()}>
                  <ClipboardCopy size={15} />
                  Copy
                </Button>
              </Tip>
            )}
            <Tip text="Many pictures with these steps" side="top">
              <Button aria-label="Many pictures with these steps" onClick={() => void many().catch(say)}>
                <Images size={15} />
                Many
              </Button>
            </Tip>
          </div>
        </div>
      )}
    </>
  )
}
