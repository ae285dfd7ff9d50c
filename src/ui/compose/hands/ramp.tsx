import { GradientGlyph } from '@/ui/primitives/glyphs'
import { type Fill } from '@/core/compose/fill'
import { type Affine, apply, compose, inverse } from '@/core/raster/affine'
import { layerById } from '@/document/edits'
import { changeLayer } from '@/document/layers'
import { changePaint } from '@/document/painting'
import { type Layer, type Project } from '@/document/records'
import { Choice } from '@/ui/primitives/Choice'
import { RampForm } from '@/ui/primitives/RampParts'
import { get, preview, set, settle, useBench } from '@/ui/store/bench'
import { RampHandles } from '@/ui/canvas/RampHandles'
import { Colours } from './brush'
import { painter } from './painting'
import { type HandPage, type HandPress } from './hand'

type Gradient = Extract<Fill, { kind: 'gradient' }>
/** Shorter drags (CSS px) are a slip of the hand. */
const LEAST_PX = 4

/** The gradient the active layer shows: its own, or the last that was painted on it. */
function gradientOf(
  layer: Layer | undefined,
): { fill: Gradient; edit: (fill: Gradient) => ReturnType<typeof changeLayer> } | null {
  if (layer?.kind === 'fill' && layer.fill.kind === 'gradient')
    return { fill: layer.fill, edit: (fill) => changeLayer(layer.id, { fill }) }
  const item = layer?.kind === 'paint' ? layer.items.at(-1) : undefined
  return item?.fill.kind === 'gradient'
    ? { fill: item.fill, edit: (fill) => changePaint(layer!.id, item.id, { fill }) }
    : null
}

/** A drag lays the gradient of the active gradient layer anew; on other layers it paints one, inside the selection. */
function press({ project, point, scale }: HandPress) {
  const layer = layerById(project, project.activeLayer),
    own = layer?.kind === 'fill' ? gradientOf(layer) : null
  const put = own ? null : painter(project)
  if (!own && !put) return null
  const { colour, otherColour, ramp } = get()
  const toLayer = own ? inverse(layer!.placement) : null
  let drawn = false
  return {
    move([x, y]: readonly [number, number], { shift }: { shift: boolean }) {
      let [dx, dy] = [x - point[0], y - point[1]]
      if (shift) {
        if (Math.abs(dx) > 2 * Math.abs(dy)) dy = 0
        else if (Math.abs(dy) > 2 * Math.abs(dx)) dx = 0
        else dy = Math.sign(dy) * Math.abs(dx)
      }
      drawn ||= Math.hypot(dx, dy) * scale > LEAST_PX
      if (!drawn) return
      const ends = [point, [point[0] + dx, point[1] + dy] as const].map(
        ([px, py]) =>
          (toLayer ? apply(toLayer, px, py) : [px, py]).map(Math.round) as unknown as readonly [number, number],
      )
      if (own) preview(own.edit({ ...own.fill, from: ends[0], to: ends[1] }))
      else
        preview(
          put!(
            {
              kind: 'gradient',
              shape: ramp.shape,
              from: ends[0],
              to: ends[1],
              stops: [
                { at: 0, colour, alpha: 1 },
                ramp.clear ? { at: 1, colour, alpha: 0 } : { at: 1, colour: otherColour, alpha: 1 },
              ],
            },
            null,
          ),
        )
    },
    end() {
      if (drawn) settle('Gradient')
    },
  }
}

function Handles({ project, map }: { project: Project; map: Affine }) {
  const layer = layerById(project, project.activeLayer),
    shown = gradientOf(layer)
  if (!shown || !layer || layer.locked) return null
  const toScreen = compose(map, layer.placement)
  const { fill, edit } = shown
  return (
    <RampHandles
      from={fill.from}
      to={fill.to}
      places={fill.stops.map((stop) => stop.at)}
      colours={fill.stops.map((stop) => stop.colour)}
      toScreen={(x, y) => apply(toScreen, x, y)}
      fromScreen={(x, y) => apply(inverse(toScreen), x, y)}
      moveEnd={(end, at) => preview(edit({ ...fill, [end]: at }))}
      moveStop={(i, at) =>
        preview(edit({ ...fill, stops: fill.stops.map((stop, n) => (n === i ? { ...stop, at } : stop)) }))
      }
    />
  )
}

function Panel({ project }: { project: Project }) {
  const colour = useBench((state) => state.colour),
    ramp = useBench((state) => state.ramp)
  if (layerById(project, project.activeLayer)?.kind === 'fill') return null // its own panel has all of it
  return (
    <div className="mb-3 space-y-1.5 px-1">
      <Colours colour={colour} />
      <RampForm shape={ramp.shape} onChange={(shape) => set({ ramp: { ...ramp, shape } })} />
      <Choice
        small
        label="What it ends in"
        value={ramp.clear ? 'clear' : 'other'}
        options={[
          ['clear', 'to nothing'],
          ['other', 'to the other'],
        ]}
        onChange={(v) => set({ ramp: { ...ramp, clear: v === 'clear' } })}
      />
    </div>
  )
}

export const rampHand: HandPage = {
  id: 'ramp',
  name: 'Gradient',
  icon: GradientGlyph,
  press,
  Handles,
  Panel,
  hint: 'Drag from end to end. On a gradient layer it lays that gradient again; elsewhere it paints one, inside the selection if there is one. Ends and stops can be moved later.',
}
