/** Makes the next changes of the open step immediate, in slices between requests, and tells what comes of it: tolerance curves and histograms. */
import { Cancelled, type Context, type Scene } from '@/core/select/finder'
import { paletteHistogram } from '@/core/select/palette'
import { finderOf } from '@/core/select/registry'
import { type FindingStep, isFinding, type StepOfKind } from '@/core/steps/registry'
import { sceneFor } from '@/core/select/steps'
import { preparedPick } from '@/core/select/similarColour'
import { toleranceCurve } from '@/core/select/similarColour/toleranceCurve'
import { type SelectRequest } from '../protocol'
import { always, contextFor, holdOn, sceneOf, studio, tell } from './work'
import { chartKey, chartSample } from '../keys'
import { withId } from '@/document/withId'

/** Preparing gives way to requests this often, ms. */
const SLICE_MS = 10

interface Preparation {
  readonly key: string
  readonly work: Generator<number, void>
  readonly done: () => void
  readonly end: () => void
}
let preparing: Preparation | null = null
let pumping = false

export function stopPreparing(): void {
  preparing?.end()
  preparing = null
}

/** Starts preparing the open step, unless that is already under way; another step's preparation gives way. */
export function prepareLater(request: SelectRequest): void {
  const step = withId(request.steps, request.prepare)
  if (step?.kind === 'palette' || step?.kind === 'limitColour') tellHistogram(request, step)
  if (!step || !isFinding(step)) {
    stopPreparing()
    return
  }
  const scene = sceneFor(step, sceneOf(request))
  const key = `${step.id} ${scene.identity(step.sample)} ${step.kind === 'similarColour' ? chartKey(step) : ''}`
  if (preparing?.key === key) return
  stopPreparing()
  const { context, end } = contextFor('Measuring every tolerance', always)
  const done = () => tellCurve(step, scene, context)
  const work = finderOf(step).prepare?.(scene, step, context)
  if (!work) {
    done()
    return
  }
  // The picture stays open until this is done, whatever the page shows by then.
  const letGo = holdOn(request)
  preparing = {
    key,
    work,
    done,
    end() {
      end()
      letGo()
    },
  }
  if (!pumping) {
    pumping = true
    nextTurn.port1.postMessage(null)
  }
}

let told = ''
function tellHistogram(request: SelectRequest, step: StepOfKind<'palette' | 'limitColour'>): void {
  const scene = sceneFor(step, sceneOf(request)),
    sample = chartSample(step),
    key = chartKey(step),
    whole = `${step.id} ${key} ${scene.identity(sample)}`
  if (whole === told || !step.id) return
  const shares = paletteHistogram(scene, step.colours, sample, { memory: studio.memory, check: () => {} })
  if (shares) {
    told = whole
    tell().histogram(step.id, key, shares)
  }
}

function tellCurve(step: FindingStep, scene: Scene, context: Context): void {
  if (step.kind !== 'similarColour' || !step.id) return
  const pick = preparedPick(scene, step, context)
  if (pick) tell().curve(step.id, chartKey(step), toleranceCurve(pick.ends))
}

/** Comes back after waiting requests have had their turn; a timer would add four idle milliseconds each time. */
const nextTurn = new MessageChannel()
nextTurn.port2.onmessage = pump

function pump(): void {
  const now = preparing
  if (!now) {
    pumping = false
    return
  }
  try {
    const until = performance.now() + SLICE_MS
    while (performance.now() < until) {
      if (!now.work.next().done) continue
      if (preparing === now) preparing = null
      now.end()
      now.done()
      break
    }
  } catch (error) {
    // What cannot be prepared is found anew at each change; the next step is prepared all the same.
    if (preparing === now) preparing = null
    now.end()
    if (!(error instanceof Cancelled)) console.error(error)
  }
  nextTurn.port1.postMessage(null)
}
