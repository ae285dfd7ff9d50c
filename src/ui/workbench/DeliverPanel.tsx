'use client'
import { Download } from 'lucide-react'
import { useRef, useState } from 'react'
import { layerById } from '@/document/edits'
import { Button, Choice, Slider } from '@/ui/primitives/controls'
import { get, shownProject, useBench } from '@/ui/store/bench'
import { cancelExport, exportState, startExport, type ExportRequest } from '@/ui/store/server'
import { toast } from 'sonner'

const ASK_EVERY_MS = 250
type Format = ExportRequest['format']

/** The composite, or one layer cut out, at full size. */
export function DeliverPanel() {
  const project = useBench(shownProject), saving = useBench((state) => state.saving)
  const [what, setWhat] = useState<'composite' | 'cutout'>('composite')
  const [formats, setFormats] = useState<{ composite: Format; cutout: Format }>({ composite: 'jpeg', cutout: 'png' })
  const [quality, setQuality] = useState(92)
  const [running, setRunning] = useState<{ id: string | null; progress: number } | null>(null)
  const cancelled = useRef(false)
  const layer = project ? layerById(project, project.activeLayer) : undefined
  const format = formats[what]
  const problem = !project?.layers.length ? 'There is nothing to export yet.' : saving.state === 'waiting' || saving.state === 'refused' ? 'Exporting waits until the server has all changes.' : what === 'cutout' && !layer ? 'Choose the layer to cut out.' : undefined
  const size = what === 'cutout' ? layer : project?.canvas

  const run = async () => {
    cancelled.current = false
    setRunning({ id: null, progress: 0 })
    try {
      while (get().saving.state === 'sending') await new Promise((resolve) => setTimeout(resolve, 100))
      let state = await startExport({ project: get().id, head: get().history.head, what, layer: layer?.id, format, quality, background: '#ffffff' })
      while (state.state === 'waiting' || state.state === 'running') {
        setRunning({ id: state.id, progress: state.progress })
        await new Promise((resolve) => setTimeout(resolve, ASK_EVERY_MS))
        if (cancelled.current) { await cancelExport(state.id); return }
        state = await exportState(state.id)
      }
      if (state.state === 'failed') throw new Error(state.problem)
      const link = document.createElement('a')
      link.href = `/api/exports/${state.id}/file`
      link.download = state.name
      link.click()
      toast.success(`${state.name} · ${((state.bytes ?? 0) / 1e6).toFixed(1)} MB`)
    } catch (error) { toast.error(error instanceof Error ? error.message : String(error)) } finally { setRunning(null) }
  }

  return (
    <>
      <h3 className="mb-2 px-1 text-xs text-[var(--muted)]">What goes out</h3>
      <div className="mb-3 grid gap-1.5">
        {([['composite', 'The composite', 'all visible layers, the canvas as it is'], ['cutout', layer ? `${layer.name}, cut out` : 'A layer, cut out', 'its own size, transparent where its mask hides it, edges in its own colours']] as const).map(([id, name, words]) => (
          <button key={id} type="button" aria-pressed={what === id} onClick={() => setWhat(id)} className="rounded-lg border border-[var(--line)] px-3 py-2 text-left text-[13px] hover:bg-[var(--hover)] aria-pressed:border-[var(--ink)] aria-pressed:bg-[var(--chosen)]"><b className="block">{name}</b><span className="text-xs leading-snug text-[var(--muted)]">{words}</span></button>
        ))}
      </div>
      <h3 className="mb-2 px-1 text-xs text-[var(--muted)]">As</h3>
      <div className="mb-3 space-y-2 px-1">
        <Choice label="Format" value={format} options={what === 'cutout' ? [['png', 'PNG'], ['webp', 'WebP']] : [['jpeg', 'JPEG'], ['png', 'PNG'], ['webp', 'WebP']]} onChange={(next) => setFormats({ ...formats, [what]: next as Format })} />
        {format !== 'png' && <Slider label="Quality" value={quality} min={1} max={100} step={1} fallback={92} onPreview={setQuality} onSettle={setQuality} />}
        {size && <p className="text-xs text-[var(--muted)]">{size.width} × {size.height} px, sRGB{format === 'jpeg' ? '; white where nothing is' : ''}</p>}
      </div>
      {running
        ? <div className="space-y-2" role="status"><div className="h-1.5 overflow-hidden rounded-full bg-[var(--line)]"><div className="h-full bg-[var(--accent)] transition-[width]" style={{ width: `${Math.max(4, running.progress * 100)}%` }} /></div><Button className="w-full" onClick={() => { cancelled.current = true }}>Cancel</Button></div>
        : <Button tone="accent" why={problem} onClick={() => { void run() }} className="w-full"><Download size={16} />Export</Button>}
    </>
  )
}
