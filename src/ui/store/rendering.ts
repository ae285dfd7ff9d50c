/** Ties the bench's state to the engine: what changed in the records goes to the workers, what they make goes to the screen. */
import { toast } from 'sonner'
import { type Affine } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { homeToCanvas, layerById, recipeAt } from '@/document/edits'
import { type Layer, type Project, type RecipeHome } from '@/document/types'
import { Engine } from '@/engine/page/engine'
import { type SelectRequest } from '@/engine/page/protocol'
import { type BenchState, get, set, shownProject, useBench } from './bench'
import { sendCover } from './server'

export interface RenderingEvents { layersChanged(epoch: number, canvas: Size): void; matteChanged(): void }

const COVER_PX = 480
const COVER_AFTER_MS = 1500
const WARM_AFTER_MS = 200

/** What the steps at a home look at. */
function requestFor(project: Project, home: RecipeHome, prepare: string | null): SelectRequest | null {
  const recipe = recipeAt(project, home)
  if (!recipe) return null
  const mask = home.kind === 'mask' ? layerById(project, home.layer)?.mask : null
  return mask
    ? { layers: mask.scene, active: mask.sceneLayer, canvas: mask.frame, steps: recipe.steps, prepare }
    : { layers: project.layers, active: project.activeLayer, canvas: project.canvas, steps: recipe.steps, prepare }
}

export class Rendering {
  readonly engine: Engine
  private readonly stop: () => void
  private lastMatters: readonly unknown[] = []
  private lastLayers = ''
  private lastSelect = ''
  private lastMap = ''
  private hasMatte = false
  private turn = 0
  private coverTimer: ReturnType<typeof setTimeout> | undefined
  private warmTimer: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly events: RenderingEvents) {
    this.engine = new Engine({
      progress: (what, fraction) => set({ progress: fraction === null ? null : { what, fraction } }),
      curve: (step, key, curve) => set((state) => ({ curves: { ...state.curves, [step]: { key, curve } } })),
      layersChanged: (epoch) => {
        const project = shownProject(get())
        if (project) events.layersChanged(epoch, project.canvas)
        this.warmLater()
        this.coverLater()
      },
      opened: (asset, picture) => { if (asset === shownProject(get())?.layers[0]?.asset) set({ rarestHue: picture.rarestHue }) },
      failed: (sentence) => toast.error(sentence),
    })
    this.stop = useBench.subscribe((state) => this.follow(state))
    this.follow(get())
  }

  close(): void { this.stop(); clearTimeout(this.coverTimer); clearTimeout(this.warmTimer); this.engine.close() }

  private follow(state: BenchState): void {
    const project = shownProject(state)
    if (!project) return
    // Most changes of state (the pointer, the pixel under it) are none of the engine's.
    const matters = [project, state.home, state.openStep, state.before]
    if (matters.every((value, i) => value === this.lastMatters[i])) return
    this.lastMatters = matters
    // Holding “before” shows the pictures as they came.
    const layers: readonly Layer[] = state.before ? project.layers.map((layer) => ({ ...layer, mask: null })) : project.layers
    const looks = JSON.stringify([layers, project.canvas])
    if (looks !== this.lastLayers) {
      this.lastLayers = looks
      this.engine.setLayers(layers, project.canvas).catch((error: unknown) => toast.error(error instanceof Error ? error.message : String(error)))
    }
    const request = requestFor(project, state.home, state.openStep)
    const wants = JSON.stringify(request && (request.steps.length ? request : 0))
    const toCanvas = homeToCanvas(project, state.home)
    if (wants !== this.lastSelect) { this.lastSelect = wants; void this.select(request, toCanvas) } else if (this.hasMatte && JSON.stringify(toCanvas) !== this.lastMap) void this.place(toCanvas)
  }

  private matte: Parameters<Engine['setMatte']>[0] = null

  private async select(request: SelectRequest | null, toCanvas: Affine): Promise<void> {
    const turn = ++this.turn
    if (!request || request.steps.length === 0) {
      this.engine.cancelSelect()
      this.matte = null
      this.hasMatte = false
      set({ result: null })
      await this.place(toCanvas)
      return
    }
    try {
      const result = await this.engine.select(request)
      if (!result || turn !== this.turn) return
      this.matte = result.matte
      this.hasMatte = true
      set({ result: { selected: result.selected, soft: result.soft } })
      const project = shownProject(get())
      await this.place(project ? homeToCanvas(project, get().home) : toCanvas)
    } catch (error) {
      toast.error(`The selection could not be made: ${error instanceof Error ? error.message : String(error)}`)
    }
  }

  private async place(toCanvas: Affine): Promise<void> {
    this.lastMap = JSON.stringify(toCanvas)
    await this.engine.setMatte(this.matte, toCanvas)
    this.events.matteChanged()
  }

  /** Small pictures of the steps, for their cards. */
  thumbnails(longest: number): Promise<Record<string, ImageBitmap>> {
    const state = get(), project = shownProject(state)
    const request = project && requestFor(project, state.home, state.openStep)
    return request?.steps.length ? this.engine.thumbnails(request, longest) : Promise.resolve({})
  }

  /** Once the layers rest, the picks to come are made ready for. */
  private warmLater(): void {
    clearTimeout(this.warmTimer)
    this.warmTimer = setTimeout(() => {
      const { live, home } = get(), project = shownProject(get())
      const request = project && !live ? requestFor(project, home, null) : null
      if (request) this.engine.warm(request)
    }, WARM_AFTER_MS)
  }

  private coverLater(): void {
    clearTimeout(this.coverTimer)
    this.coverTimer = setTimeout(async () => {
      const { id, live, before, saving } = get()
      if (live || before || saving.state !== 'saved') { this.coverLater(); return }
      try { await sendCover(id, await this.engine.cover(COVER_PX)) } catch { /* the shelf keeps the older cover; the next change tries again */ }
    }, COVER_AFTER_MS)
  }
}
