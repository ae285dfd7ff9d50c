import { SwatchBook, X } from 'lucide-react'
import { parseStep } from '@/core/formats/recipe'
import { type StepOfKind } from '@/core/select/registry'
import { addStep, changeStep } from '@/document/edits'
import { Choice, Slider } from '@/ui/primitives/controls'
import { act, preview, set } from '@/ui/store/bench'
import { type Drag, type FinderPage, type PanelProps, type Press } from '../finder'

type PaletteStep = StepOfKind<'palette'>
type Colour = readonly [number, number, number]

/** Each click takes the colour there into the palette; keys held begin a palette of their own. */
function press(at: Press, open: PaletteStep | undefined): Drag {
  return {
    move() {},
    end() {
      void at.readPixel().then((pixel) => {
        if (!pixel || pixel[3] === 0) return
        const colour: Colour = [pixel[0], pixel[1], pixel[2]]
        if (open && !at.further) {
          if (!open.colours.some((c) => c.join() === colour.join())) act('Add colour', changeStep(at.home, open.id!, { colours: [...open.colours, colour] }))
          return
        }
        const id = crypto.randomUUID()
        act('Palette', addStep(at.home, parseStep({ kind: 'palette', id, op: at.first ? 'add' : at.op, colours: [colour] })))
        set({ openStep: id })
      })
    },
  }
}

function Panel({ step, home }: PanelProps<PaletteStep>) {
  const edit = (values: object) => changeStep(home, step.id!, values)
  return (
    <>
      <ul className="flex flex-wrap gap-1.5" aria-label="Colours of the palette">
        {step.colours.map((colour, i) => (
          <li key={colour.join()}>
            <button type="button" aria-label={`Remove colour ${colour.join(' ')}`} title={`${colour.join(' ')}: remove`} onClick={() => act('Remove colour', edit({ colours: step.colours.filter((_, k) => k !== i) }))}
              className="group grid size-7 place-items-center rounded-md border border-black/25" style={{ background: `rgb(${colour.join(' ')})` }}><X size={13} className="rounded-full bg-black/60 text-white opacity-0 group-hover:opacity-100 group-focus-visible:opacity-100" /></button>
          </li>
        ))}
        {step.colours.length === 0 && <li className="text-xs text-[var(--muted)]">Click colours on the picture.</li>}
      </ul>
      <Slider label="Spread" value={step.spread} min={0} max={100} step={0.5} digits={1} fallback={24} curve={1.5} onPreview={(spread) => preview(edit({ spread }))} onSettle={(spread) => act('Change spread', edit({ spread }))} />
      <Slider label="Softness" value={step.softness * 100} min={0} max={100} step={1} unit="%" fallback={50} onPreview={(v) => preview(edit({ softness: v / 100 }))} onSettle={(v) => act('Change softness', edit({ softness: v / 100 }))} />
      <Choice small label="What is looked at" value={step.sample} options={[['all', 'all layers'], ['layer', 'this layer']]} onChange={(sample) => act('Change what is looked at', edit({ sample }))} />
    </>
  )
}

export const palettePage: FinderPage<'palette'> = {
  id: 'palette', kind: 'palette', name: 'Palette', group: 'colour', icon: SwatchBook,
  hint: 'Click several colours; what resembles any of them is found, softly. A colour goes when you press its swatch. Alt-click begins a palette that takes away.',
  summary: (step) => `${step.colours.length} ${step.colours.length === 1 ? 'colour' : 'colours'} · spread ${step.spread}`,
  press, Handles: () => null, Panel,
}
