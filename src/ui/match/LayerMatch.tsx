'use client'
/** Brings the layer worked on into the light, the air and the grain of what lies around it. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { Blend } from 'lucide-react'
import { useState } from 'react'
import { toast } from 'sonner'
import { layerById } from '@/document/edits'
import { matchedAt, matchToSurroundings, ofNewSky, turnedRound } from '@/document/matchedLayer'
import { sideOf } from '@/core/match/toldSide'
import { layersBelow } from '@/document/tree'
import { type Project } from '@/document/records'
import { AdjustmentPanel } from '@/ui/adjustments/AdjustmentPanel'
import { flipped } from '@/ui/canvas/placement'
import { placeableOf } from '@/ui/canvas/placeable'
import { newId } from '@/ui/layers/layerActions'
import { Button } from '@/ui/primitives/Button'
import { act, get, shownProject, useBench } from '@/ui/store/bench'
import { askLayers } from '@/ui/store/rendering'

/** Why nothing can be matched now; nothing when something can. */
function problemOf(project: Project): string | undefined {
  const at = matchedAt(project.layers, project.activeLayer),
    active = layerById(project, project.activeLayer)
  if (active && ofNewSky(project.layers, active)) return `${active.name} belongs to a new sky, and is matched by it.`
  if (!at) return 'Choose a picture, a painted layer or a group in the list of layers first.'
  if (!layersBelow(project.layers, at.layer.id).some((layer) => layer.visible))
    return `Nothing lies below ${at.layer.name} that it could be matched to.`
  return undefined
}

const fromWhere = (side: string | null) => (side ? `from the ${side}` : 'from everywhere')

export function LayerMatch() {
  const project = useBench(shownProject),
    at = project ? matchedAt(project.layers, project.activeLayer) : undefined,
    [sides, setSides] = useState<{ layer: string; own: string | null; around: string | null } | null>(null),
    [looking, setLooking] = useState(false)
  if (!project) return null
  const why = problemOf(project),
    parts = Object.values(at?.parts ?? {}),
    told = sides && sides.layer === at?.layer.id ? sides : null

  const match = async () => {
    if (!at) return
    const bench = get().id
    setLooking(true)
    try {
      const found = await askLayers((engine, scene) =>
        engine.matchLayer({ ...scene, steps: [], prepare: null }, at.layer.id),
      )
      if (!found || get().id !== bench) return
      if (typeof found === 'string') {
        toast.error(found)
        return
      }
      // What is there now counts: the layer may have gone while it was looked at, or what was to be measured again been undone.
      const now = matchedAt(shownProject(get())?.layers ?? [], at.layer.id)
      if (!now || (parts.length && !Object.keys(now.parts).length)) return
      act(`Match ${now.layer.name} to its surroundings`, matchToSurroundings(now, found, newId))
      setSides({ layer: now.layer.id, own: sideOf(found.side.own), around: sideOf(found.side.around) })
    } catch (error) {
      toast.error(`The surroundings could not be looked at: ${sentenceOf(error)}`)
    } finally {
      setLooking(false)
    }
  }
  const mirror = () => {
    const layer = layerById(project, at!.layer.id),
      thing = layer && placeableOf({ ...project, activeLayer: layer.id }, 'layer')
    if (at && thing && act(`Mirror ${thing.name}`, turnedRound(at, flipped(thing.placement, thing, true))))
      setSides(told && { ...told, own: told.around })
  }
  return (
    <section aria-label="Layer to its surroundings" className="mb-4 space-y-3 px-1">
      <p className="text-[13px] leading-snug">
        {why ?? (
          <>
            Light and its side, contrast, blur and grain of <b>{at!.layer.name}</b> follow what lies around it.
          </>
        )}
      </p>
      <Button
        tone={parts.length ? undefined : 'accent'}
        className="w-full"
        why={why ?? (looking ? 'It is being looked at.' : undefined)}
        onClick={() => void match()}
      >
        <Blend size={16} />
        {looking ? 'Looking …' : parts.length ? 'Measure again' : 'Match it'}
      </Button>
      {told && (told.own ?? told.around) && (
        <div className="space-y-2 text-[13px] leading-snug">
          <p>
            Light on it comes {fromWhere(told.own)}; around it {fromWhere(told.around)}.
          </p>
          {told.own && told.around && told.own !== told.around && (
            <Button className="w-full" onClick={mirror}>
              Mirror it instead
            </Button>
          )}
        </div>
      )}
      {parts.map((layer) => (
        <div key={layer.id}>
          <h2 className="text-xs text-[var(--muted)]">{layer.name}</h2>
          <AdjustmentPanel layer={layer} />
        </div>
      ))}
    </section>
  )
}
