'use client'
import { Download } from 'lucide-react'
import { useRef, useState } from 'react'
import { layerById } from '@/document/edits'
import { windowSize } from '@/document/window'
import { Button } from '@/ui/primitives/Button'
import { Choice } from '@/ui/primitives/Choice'
import { NumberField } from '@/ui/primitives/NumberField'
import { Slider } from '@/ui/primitives/Slider'
import { shownProject, useBench } from '@/ui/store/bench'
import { runExport } from '@/ui/store/exports'
import { type ExportRequest } from '@/ui/store/server'
import { toast } from 'sonner'

type Format = ExportRequest['format']

/** The composite, or one layer cut out, at full size. */
export function ExportPanel() {
  const project = useBench(shownProject),
    saving = useBench((state) => state.saving)
  const [what, setWhat] = useState<'composite' | 'cutout'>('composite')
  const [formats, setFormats] = useState<{ composite: Format; cutout: Format }>({ composite: 'jpeg', cutout: 'png' })
  const [quality, setQuality] = useState(92),
    [longest, setLongest] = useState<number | null>(null)
  const [progress, setProgress] = useState<number | null>(null)
  const cancelled = useRef(false)
  const layer = project ? layerById(project, project.activeLayer) : undefined
  const format = formats[what]
  const problem = !project?.layers.length
    ? 'There is nothing to export yet.'
    : saving.state === 'waiting' || saving.state === 'gone'
      ? 'Exporting waits until the server has all changes.'
      : what === 'cutout' && layer?.kind !== 'picture'
        ? 'Choose the picture to cut out.'
        : undefined
  const size = what === 'cutout' ? layer : project && windowSize(project)

  const full = size ? Math.max(size.width, size.height) : 1,
    scale = longest !== null && longest < full ? longest / full : 1

  const run = async () => {
    cancelled.current = false
    setProgress(0)
    try {
      const state = await runExport(
        { what, layer: layer?.id, ...(scale < 1 ? { longest: longest! } : {}), format, quality, background: '#ffffff' },
        setProgress,
        () => cancelled.current,
      )
      if (!state) return
      const link = document.createElement('a')
      link.href = `/api/exports/${state.id}/file`
      link.download = state.name
      link.click()
      toast.success(`${state.name} · ${((state.bytes ?? 0) / 1e6).toFixed(1)} MB`)
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
    } finally {
      setProgress(null)
    }
  }

  return (
    <>
      <h2 className="mb-2 px-1 text-xs text-[var(--muted)]">What goes out</h2>
      <div className="mb-3 grid gap-1.5">
        {(
          [
            ['composite', 'The composite', 'all visible layers, the canvas as it is'],
            [
              'cutout',
              layer?.kind === 'picture' ? `${layer.name}, cut out` : 'A picture, cut out',
              'its own size, transparent where its mask hides it, edges in its own colours',
            ],
          ] as const
        ).map(([id, name, words]) => (
          <button
            key={id}
            type="button"
            aria-pressed={what === id}
            onClick={() => setWhat(id)}
            className="rounded-lg border border-[var(--line)] px-3 py-2 text-left text-[13px] hover:bg-[var(--hover)] aria-pressed:border-[var(--ink)] aria-pressed:bg-[var(--chosen)]"
          >
            <b className="block">{name}</b>
            <span className="text-xs leading-snug text-[var(--muted)]">{words}</span>
          </button>
        ))}
      </div>
      <h2 className="mb-2 px-1 text-xs text-[var(--muted)]">As</h2>
      <div className="mb-3 space-y-2 px-1">
        <Choice
          label="Format"
          value={format}
          options={
            what === 'cutout'
              ? [
                  ['png', 'PNG'],
                  ['webp', 'WebP'],
                ]
              : [
                  ['jpeg', 'JPEG'],
                  ['png', 'PNG'],
                  ['webp', 'WebP'],
                ]
          }
          onChange={(next) => setFormats({ ...formats, [what]: next })}
        />
        {format !== 'png' && (
          <Slider
            label="Quality"
            value={quality}
            min={1}
            max={100}
            step={1}
            fallback={92}
            onPreview={setQuality}
            onSettle={setQuality}
          />
        )}
        <div className="flex items-center justify-between text-[13px]">
          Size
          <span className="flex items-center gap-1">
            <Choice
              small
              label="Size of the file’s picture"
              value={longest === null ? 'full' : 'longest'}
              options={[
                ['full', 'full'],
                ['longest', 'smaller'],
              ]}
              onChange={(next) => setLongest(next === 'full' ? null : Math.min(1600, full))}
            />
          </span>
        </div>
        {longest !== null && (
          <label className="flex items-center justify-between text-[13px]">
            Longer side
            <NumberField
              label="Longer side"
              value={longest}
              min={1}
              max={full}
              unit="px"
              className="w-24"
              onSettle={(v) => setLongest(Math.round(v))}
            />
          </label>
        )}
        {size && (
          <p className="text-xs text-[var(--muted)]">
            {Math.max(1, Math.round(size.width * scale))} × {Math.max(1, Math.round(size.height * scale))} px, sRGB
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
        <Button
          tone="accent"
          why={problem}
          onClick={() => {
            void run()
          }}
          className="w-full"
        >
          <Download size={16} />
          Export
        </Button>
      )}
    </>
  )
}
