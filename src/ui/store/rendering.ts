/** Ties the bench's state to the engine: what changed in the records goes to the workers, what they make goes to the screen. */
import { sentenceOf } from '@/core/fields/sentenceOf'
import { toast } from 'sonner'
import { type Affine, IDENTITY } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Step } from '@/core/steps/registry'
import { sceneOfProject } from '@/document/tree'
import { type SceneRecord } from '@/document/records'
import { Engine } from '@/engine/page/engine'
import { type SelectRequest, type SharedMatte } from '@/engine/page/protocol'
import { type BenchState } from './benchState'
import { get, set, shownProject, useBench } from './bench'
import { sendCover } from './server'
import { PixelUnderPointer } from './pixelUnderPointer'
import { diffOf } from '@/document/diff'
import { cutsActive, type Frame, frameOf, partInView, sameMap, samePart } from './frame'
import { decidesMatte, homeToView, isMoving, lookedAt, requestFor, selectRequest } from './requests'

export interface RenderingEvents {
  layersChanged(epoch: number, canvas: Size, partly: boolean): void
  matteChanged(): void
  making(something: boolean): void
}

/** A cover's longer side: as large as the picture is in a window of 1280 px, where it stands in while the project opens. */
const COVER_PX = 800
const COVER_AFTER_MS = 1500
const WARM_AFTER_MS = 200

let current: Rendering | null = null
export const startRendering = (events: RenderingEvents): Rendering => (current = new Rendering(events))
/** What of the layers the engine is asked about, once. */
export function askLayers<T>(ask: (engine: Engine, scene: SceneRecord) => Promise<T>): Promise<T> | null {
  const project = shownProject(get())
  return current && project ? ask(current.engine, sceneOfProject(project)) : null
}
/** The engine of the open bench, and what the steps shown look at: for what is asked once, by a button. @param step asked for what this step was made on */
export function askEngine<T>(
  ask: (engine: Engine, request: SelectRequest) => Promise<T>,
  step?: Step,
): Promise<T> | null {
  const state = get(),
    project = shownProject(state)
  const request = project && requestFor(project, state.home, null)
  return current && request ? ask(current.engine, step ? lookedAt(request, step) : request) : null
}
/** What earlier versions of the algorithms made of the steps shown is found anew. */
export const renewSelection = (): void => void current?.renew()
/** Keeps the edge that is shown, to compare the next ones with. */
export async function keepEdge(): Promise<void> {
  const state = get(),
    project = shownProject(state),
    { result, home } = state
  if (!project || !result || !current) return
  const request = requestFor(project, home, null)
  if (!request) return
  await current.engine.keepMatte(request, homeToView(state, project))
  set({ keptEdge: { home, steps: request.steps, selected: result.selected, soft: result.soft } })
}

export class Rendering {
  readonly engine: Engine
  private readonly stop: () => void
  readonly pixel = new PixelUnderPointer(() => this.engine)
  private lastMatters: readonly unknown[] = []
  private lastStage: BenchState['stage'] | null = null
  private lastFrame: Frame | null = null
  private lastCut: SharedMatte | null = null
  private lastSelect: readonly unknown[] = []
  private lastMap: Affine | null = null
  private matte: SharedMatte | null = null
  private showing = false
  private behind = false
  private turn = 0
  private coverTimer: ReturnType<typeof setTimeout> | undefined
  private warmTimer: ReturnType<typeof setTimeout> | undefined

  constructor(private readonly events: RenderingEvents) {
    this.engine = new Engine(
      {
        progress: (what, fraction) => set({ progress: fraction === null ? null : { what, fraction } }),
        curve: (step, key, curve) => set((state) => ({ curves: { ...state.curves, [step]: { key, curve } } })),
        histogram: (step, key, shares) =>
          set((state) => ({ histograms: { ...state.histograms, [step]: { key, shares } } })),
        layersChanged: (epoch, partly) => {
          const project = shownProject(get())
          if (project) events.layersChanged(epoch, partInView(get(), project).size, partly)
          this.pixel.read()
          this.warmLater()
          this.coverLater()
        },
        making: (making) => {
          events.making(making)
          if (get().making !== making) set({ making })
        },
        opened: (asset, picture) => {
          if (asset === shownProject(get())?.layers.find((layer) => layer.kind === 'picture')?.asset)
            set({ rarestHue: picture.rarestHue })
        },
        failed: (sentence) => toast.error(sentence, { id: sentence }),
      },
      get().id,
    )
    this.stop = useBench.subscribe((state) => this.follow(state))
    this.follow(get())
  }

  close(): void {
    if (current === this) current = null
    this.stop()
    clearTimeout(this.coverTimer)
    clearTimeout(this.warmTimer)
    this.engine.close()
  }

  private follow(state: BenchState): void {
    const project = shownProject(state)
    if (!project) return
    // Most changes of state (the pointer, the pixel under it) are none of the engine's.
    const matters = [
      project,
      state.live !== null,
      state.drawing,
      state.home,
      state.openStep,
      state.before,
      state.stage,
      state.view,
      state.backing,
      state.solo,
      state.without,
      state.hand,
      state.compare,
      state.keptEdge,
    ]
    if (matters.every((value, i) => value === this.lastMatters[i])) return
    this.lastMatters = matters
    if (state.stage !== this.lastStage) this.warmLater()
    this.lastStage = state.stage
    this.showFrame(state, frameOf(state, project))
    const moving = isMoving(state, project),
      wants = decidesMatte(project, state.home, state.openStep, moving)
    const toCanvas = homeToView(state, project)
    if (wants.length !== this.lastSelect.length || wants.some((value, i) => value !== this.lastSelect[i])) {
      this.lastSelect = wants
      void this.select(selectRequest(project, state.home, state.openStep, moving), toCanvas)
    } else if (this.matte && !(this.lastMap && sameMap(toCanvas, this.lastMap))) void this.place(toCanvas)
  }

  /** Shows the layers where they, or how they are shown, differ from what is shown. */
  private showFrame(state: BenchState, frame: Frame): void {
    const last = this.lastFrame,
      matte = frame.cut && this.matte
    if (
      last &&
      frame.linear === last.linear &&
      frame.cut === last.cut &&
      matte === this.lastCut &&
      samePart(frame.part, last.part) &&
      // An act has the values that were shown while its slider moved, in records of its own.
      !diffOf(last.layers, frame.layers)
    ) {
      this.lastFrame = frame
      return
    }
    // While something is dragged, one change after the other: what comes in between is passed over, and the last of it made good.
    if (this.showing && state.live) {
      this.behind = true
      return
    }
    Object.assign(this, { lastFrame: frame, lastCut: matte || null, showing: true })
    this.engine
      .setLayers(
        { ...sceneOfProject(shownProject(state)!), layers: frame.layers },
        frame.part,
        matte ? { layer: frame.cut, levels: matte, toCanvas: IDENTITY } : undefined,
      )
      .catch((error: unknown) => toast.error(sentenceOf(error)))
      .finally(() => {
        this.showing = false
        if (this.behind) {
          this.behind = false
          this.followAgain()
        }
      })
  }
  /** The selection is found anew by the algorithms of today. */
  async renew(): Promise<void> {
    const project = shownProject(get()),
      request = project && requestFor(project, get().home, null)
    if (!request) return
    await this.engine.renew(request)
    this.lastSelect = []
    this.followAgain()
  }
  private followAgain(): void {
    this.lastMatters = []
    this.follow(get())
  }

  private async select(request: SelectRequest | null, toCanvas: Affine): Promise<void> {
    const turn = ++this.turn
    if (!request || request.steps.length === 0) {
      this.engine.cancelSelect()
      this.matte = null
      set({ result: null, notes: {}, older: [], selecting: false })
      await this.place(toCanvas)
      return
    }
    if (!get().selecting) set({ selecting: true })
    try {
      const result = await this.engine.select(request)
      if (turn !== this.turn) return
      if (!result) {
        set({ selecting: false })
        return
      } // called off
      this.matte = result.matte
      set({
        result: { selected: result.selected, soft: result.soft, bounds: result.bounds },
        notes: result.notes,
        older: result.older,
        selecting: false,
      })
      const project = shownProject(get())
      await this.place(project ? homeToView(get(), project) : toCanvas)
    } catch (error) {
      if (turn === this.turn) set({ selecting: false })
      toast.error(`The selection could not be made: ${sentenceOf(error)}`)
    }
  }

  private async place(toCanvas: Affine): Promise<void> {
    this.lastMap = toCanvas
    await this.engine.setMatte(this.matte, toCanvas)
    this.events.matteChanged()
    if (cutsActive(get()) || this.lastCut) this.followAgain()
  }

  /** Small pictures of the steps, for their cards. */
  thumbnails(longest: number): Promise<Record<string, ImageBitmap>> {
    const state = get(),
      project = shownProject(state)
    const request = project && requestFor(project, state.home, state.openStep)
    return request?.steps.length ? this.engine.thumbnails(request, longest) : Promise.resolve({})
  }

  /** Where things are picked: once the layers rest, the picks to come are made ready for. */
  private warmLater(): void {
    clearTimeout(this.warmTimer)
    this.warmTimer = setTimeout(() => {
      const { live, home, stage, making } = get(),
        project = shownProject(get())
      if (making) {
        this.warmLater()
        return
      }
      const request = project && !live && stage === 'select' ? requestFor(project, home, null) : null
      if (!request) return
      this.engine.warm(request).then(
        (done) => {
          if (!done) this.warmLater()
        },
        () => {}, // what cannot be had is said when it is shown
      )
    }, WARM_AFTER_MS)
  }

  private coverLater(): void {
    clearTimeout(this.coverTimer)
    this.coverTimer = setTimeout(async () => {
      const { id, live, before, solo, without, stage, hand, saving, making } = get()
      // While the project opens its masks may still be missing: the shelf shows what is final.
      if (
        making ||
        live ||
        before ||
        solo ||
        without.length ||
        (stage === 'compose' && hand === 'crop') ||
        saving.state !== 'saved'
      ) {
        this.coverLater()
        return
      }
      try {
        const cover = await this.engine.cover(COVER_PX)
        if (cover) await sendCover(id, cover)
      } catch {
        /* the shelf keeps the older cover; the next change tries again */
      }
    }, COVER_AFTER_MS)
  }
}
