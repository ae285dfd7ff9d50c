/** What is asked of the finders by object on a scene, and how the answer is measured. */
import { type Matte, type Picture } from '@/core/raster/picture'
import { parseStep } from '@/core/formats/recipe'
import { plainContext, sceneOf } from '@/core/select/onePicture'
import { foldSteps } from '@/core/select/steps'
import { textbookClosedForm } from '../bench/textbook'
import { correctiveClicks } from './clicks'
import { overlap } from '@/core/matting/errors'
import { outlineDistance, squaredError } from './measures'
import { type TruthScene } from './scene'

/** Named figures of one answer. `value` is what tables show. */
export interface Answer {
  readonly value: number
  /** Further figures with their titles, the less the better. */ readonly also?: Readonly<Record<string, number>>
}

export interface Task {
  readonly title: string
  /** Whether more is better. */ readonly rising: boolean
  /** null where the scene does not ask for it. */
  readonly run: (scene: TruthScene) => Answer | null
}

/** Answers steps on one picture; what does not depend on the steps is remembered, as it is in the application. */
export function answerer(scene: TruthScene): (steps: readonly object[]) => Matte {
  const images = new Map<string, Picture>()
  if (scene.trimap) images.set('trimap', pictureOf(scene.trimap))
  const sight = sceneOf(scene.photo, scene.name, images),
    context = { ...plainContext(), network: !process.env.WITHOUT_NETWORK }
  return (steps) =>
    foldSteps(
      steps.map((step) => parseStep(step)),
      sight,
      context,
    )
}

function pictureOf({ width, height, data }: Matte): Picture {
  const out = new Uint8ClampedArray(width * height * 4)
  data.forEach((v, i) => out.set([v, v, v, 255], 4 * i))
  return { width, height, data: out }
}

/** A press that hardly moves, as a hand makes it, px. */
export const press = (places: readonly (readonly [number, number])[], size = 12) =>
  places.map(([x, y]) => ({ points: [[x, y], [x + 1, y]], size })) // prettier-ignore

const single = (steps: (scene: TruthScene) => readonly object[] | null) => (scene: TruthScene) => {
  const asked = isSky(scene) ? null : steps(scene)
  return asked && { value: overlap(answerer(scene)(asked), scene.truth) }
}
const isSky = ({ kind }: TruthScene) => kind.startsWith('sky')
const DETAILS = [0, 0.2, 0.4, 0.6, 0.8]

export const TASKS: Readonly<Record<string, Task>> = {
  roughBox: {
    title: 'rough box',
    rising: true,
    run: single(({ hints }) => [{ kind: 'roughBox', box: hints.roughBox }]),
  },
  steadiness: {
    title: 'rough box, change when it is moved or scaled by 5 %',
    rising: false,
    run: (scene) => (isSky(scene) ? null : { value: boxSteadiness(scene) }),
  },
  marks: {
    title: 'marks',
    rising: true,
    run: single(({ hints }) => [{ kind: 'marks', keep: press(hints.inside), drop: press(hints.outside), unsure: [] }]),
  },
  marksInTurn: {
    title: 'marks, keep and drop in turn',
    rising: true,
    run: single(({ hints: { inside, outside } }) => {
      const turned = (places: typeof inside, first: number) =>
        press(places).map((mark, n) => ({ ...mark, turn: 2 * n + first }))
      return [{ kind: 'marks', keep: turned(inside, 0), drop: turned(outside, 1), unsure: [] }]
    }),
  },
  subject: {
    title: 'subject, first',
    rising: true,
    run: single(({ kind }) => (kind === 'multi' ? null : [{ kind: 'subject' }])),
  },
  subjectOfThree: {
    title: 'subject, best of three',
    rising: true,
    run: (scene) => best(scene, scene.kind === 'multi' ? [] : [0, 1, 2].map((pick) => [{ kind: 'subject', pick }])),
  },
  regions: {
    title: 'regions, two clicks',
    rising: true,
    run: (scene) =>
      best(
        scene,
        DETAILS.flatMap((detail) =>
          [1, 2].map((n) => [{ kind: 'regions', at: scene.hints.inside.slice(0, n), detail }]),
        ),
      ),
  },
  liveWire: {
    title: 'live wire, px off',
    rising: false,
    run: (scene) =>
      scene.hints.anchors && !isSky(scene)
        ? {
            value: outlineDistance(
              answerer(scene)([{ kind: 'liveWire', anchors: scene.hints.anchors, reach: 24 }]),
              scene.truth,
            ),
          }
        : null,
  },
  trimap: {
    title: 'trimap, squared error',
    rising: false,
    run: (scene) =>
      scene.trimap && !isSky(scene)
        ? {
            value: squaredError(answerer(scene)([{ kind: 'trimap', asset: 'trimap' }]), scene.truth, scene.trimap),
          }
        : null,
  },
  trimapTextbook: {
    title: 'trimap, squared error of a textbook’s closed form',
    rising: false,
    run: (scene) => (scene.trimap && !isSky(scene) ? { value: textbookError(scene, scene.trimap) } : null),
  },
  sky: {
    title: 'sky',
    rising: true,
    run: (scene) => (isSky(scene) ? { value: overlap(answerer(scene)([{ kind: 'sky' }]), scene.truth) } : null),
  },
  clicks: {
    title: 'clicks to 90 %, marks',
    rising: false,
    run: (scene) => (isSky(scene) ? null : correctiveClicks(scene, answerer(scene), [])),
  },
  boxAndClicks: {
    title: 'clicks to 90 %, after a box',
    rising: false,
    run: (scene) =>
      isSky(scene) ? null : correctiveClicks(scene, answerer(scene), [{ kind: 'roughBox', box: scene.hints.roughBox }]),
  },
}

function textbookError({ photo, truth }: TruthScene, trimap: Matte): number {
  const alpha = Float64Array.from(trimap.data, (v) => v / 255),
    { width, height } = photo
  textbookClosedForm(
    photo,
    trimap.data.map((v) => (v === 0 || v === 255 ? 0 : 1)),
    alpha,
  )
  const data = Uint8Array.from(alpha, (v) => Math.round(255 * Math.min(1, Math.max(0, v))))
  return squaredError({ width, height, data }, truth, trimap)
}

/** The median change of the answer (one minus overlap) when the box is moved to each side, shrunk or grown by a twentieth. */
function boxSteadiness(scene: TruthScene): number {
  const answer = answerer(scene),
    [x0, y0, x1, y1] = scene.hints.roughBox,
    dx = 0.05 * (x1 - x0),
    dy = 0.05 * (y1 - y0)
  const { width, height } = scene.photo,
    ask = (box: readonly number[]) =>
      answer([{ kind: 'roughBox', box: box.map((v, k) => Math.max(0, Math.min(k % 2 ? height : width, v))) }])
  const first = ask([x0, y0, x1, y1])
  const changes = [
    [x0 - dx, y0, x1 - dx, y1],
    [x0 + dx, y0, x1 + dx, y1],
    [x0, y0 - dy, x1, y1 - dy],
    [x0, y0 + dy, x1, y1 + dy],
    [x0 + dx / 2, y0 + dy / 2, x1 - dx / 2, y1 - dy / 2],
    [x0 - dx / 2, y0 - dy / 2, x1 + dx / 2, y1 + dy / 2],
  ].map((box) => 1 - overlap(ask(box), first))
  changes.sort((a, b) => a - b)
  return (changes[2] + changes[3]) / 2
}

function best(scene: TruthScene, tries: readonly (readonly object[])[]): Answer | null {
  if (isSky(scene) || !tries.length) return null
  const answer = answerer(scene)
  return { value: Math.max(...tries.map((steps) => overlap(answer(steps), scene.truth))) }
}
