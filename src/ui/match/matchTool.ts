/** What the Match stage works on: as it was chosen for this layer; else a cut-out is matched to its surroundings, and a photo gets a new sky. */
import { Blend, CloudSun, type LucideIcon } from 'lucide-react'
import { create } from 'zustand'
import { layerById } from '@/document/edits'
import { newSkyAt } from '@/document/newSkyParts'
import { type Project } from '@/document/records'
import { get, shownProject, useBench } from '@/ui/store/bench'

export type MatchTool = 'sky' | 'layer'
export const MATCH_TOOLS: readonly (readonly [MatchTool, string, LucideIcon])[] = [
  ['sky', 'New sky', CloudSun],
  ['layer', 'Layer to surroundings', Blend],
]
interface Chosen {
  readonly layer: string | null
  readonly tool: MatchTool
}
const useChosen = create<Chosen>(() => ({ layer: null, tool: 'sky' }))

function toolFor(project: Project | null, { layer, tool }: Chosen): MatchTool {
  if (!project || project.activeLayer === layer) return tool
  if (newSkyAt(project.layers, project.activeLayer)?.sky) return 'sky'
  const active = layerById(project, project.activeLayer)
  return active?.clipped || active?.mask?.enabled ? 'layer' : 'sky'
}
export function useMatchTool(): MatchTool {
  const chosen = useChosen()
  return useBench((state) => toolFor(shownProject(state), chosen))
}
export const matchTool = (): MatchTool => toolFor(shownProject(get()), useChosen.getState())
export const chooseMatchTool = (tool: MatchTool): void =>
  useChosen.setState({ tool, layer: shownProject(get())?.activeLayer ?? null })
