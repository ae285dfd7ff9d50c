'use client'
/** How the picture is looked at while it is matched: as it is, as it was before, both beside a divider, or where what was made acts. */
import { useEffect } from 'react'
import { type Project, SELECTION } from '@/document/records'
import { matchedAt } from '@/document/matchedLayer'
import { newSkyAt } from '@/document/newSkyParts'
import { Choice } from '@/ui/primitives/Choice'
import { get, set, shownProject, useBench } from '@/ui/store/bench'
import { type MatchTool, useMatchTool } from './matchTool'

type View = 'result' | 'before' | 'divider' | 'acts'
const VIEWS: readonly (readonly [View, string])[] = [
  ['result', 'Result'],
  ['before', 'Before'],
  ['divider', 'Divider'],
  ['acts', 'Where it acts'],
]

/** What was made here, and the layer whose mask says where it acts. */
function madeHere(
  project: Project,
  tool: MatchTool,
): { readonly made: readonly string[]; readonly acts: string | null } {
  if (tool === 'sky') {
    const parts = newSkyAt(project.layers, project.activeLayer)
    return { made: parts?.group ? [parts.group.id] : [], acts: parts?.land?.mask ? parts.land.id : null }
  }
  const at = matchedAt(project.layers, project.activeLayer)
  return { made: Object.values(at?.parts ?? {}).map(({ id }) => id), acts: at?.layer.mask ? at.layer.id : null }
}

const back = (): void =>
  set((state) => ({
    without: [],
    acts: false,
    divider: null,
    ...(state.acts ? { home: SELECTION, openStep: null } : {}),
  }))

export function MatchViews() {
  const tool = useMatchTool(),
    project = useBench(shownProject),
    divider = useBench((state) => state.divider !== null),
    without = useBench((state) => state.without.length > 0),
    acts = useBench((state) => state.acts)
  const here = project ? madeHere(project, tool) : { made: [], acts: null },
    view: View = acts ? 'acts' : without ? 'before' : divider ? 'divider' : 'result',
    key = here.made.join()
  // Another layer, or another thing made: it is looked at as it is.
  useEffect(() => back, [key, tool])
  if (!project || !here.made.length) return null
  const look = (next: View) => {
    back()
    if (next === 'before') set({ without: here.made })
    if (next === 'divider') set({ divider: (shownProject(get())?.canvas.width ?? 0) / 2 })
    if (next === 'acts' && here.acts) set({ acts: true, home: { kind: 'mask', layer: here.acts }, openStep: null })
  }
  return (
    <div className="absolute top-[calc(10px+var(--ruler))] right-3">
      <Choice
        small
        label="How the match is looked at"
        value={view}
        options={VIEWS.filter(([id]) => (id !== 'acts' || here.acts) && (id !== 'divider' || tool === 'sky'))}
        onChange={look}
      />
    </div>
  )
}
