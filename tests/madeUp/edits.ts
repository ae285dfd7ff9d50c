/** Edits of a project drawn at random, as hands make them: layers of every kind, masks of anything, groups, clipping, placing, the window. */
import {
  ADJUSTMENTS,
  type AdjustmentKind,
  type AdjustmentOf,
  parseAdjustment,
} from '@/core/compose/adjustments/registry'
import { type Fill, type Hex } from '@/core/compose/fill'
import { BLEND_MODES } from '@/core/compose/modes'
import { type Affine, compose, rotation, scaling, translation } from '@/core/raster/affine'
import { type FindingStep, isFinding } from '@/core/steps/registry'
import { addStep, makeMask, saveSelection, setLinear } from '@/document/edits'
import { type Edit } from '@/document/history'
import {
  addLayer,
  addPicture,
  changeLayer,
  duplicateLayer,
  groupLayers,
  placeLayer,
  removeLayer,
  stepLayer,
  ungroup,
} from '@/document/layers'
import { adjustLayer, fillLayer, paintLayer } from '@/document/layerRecords'
import { matchedAt, matchToSurroundings } from '@/document/matchedLayer'
import { replaceSky, skyInWater, subjectApart } from '@/document/newSky'
import { newSkyAt } from '@/document/newSkyParts'
import { cutOut, eraseSelected, liftCopy } from '@/document/pieces'
import { paint } from '@/document/painting'
import { changeMask, copyMask, moveMask, removeMask, setMask } from '@/document/masks'
import { type Layer, type Picture, type Project, SELECTION } from '@/document/records'
import { setWindow, wholeWindow } from '@/document/window'
import { type Random } from './random'
import { anyStep, type Named, QUICK } from './steps'
import { relight, hazy, matchedLayer, reflection, VALUES } from './adjustmentValues'

interface NamedEdit {
  readonly label: string
  readonly edit: Edit
}

export function anyEdit(
  random: Random,
  project: Project,
  pictures: readonly Picture[],
  newId: () => string,
): NamedEdit {
  const { layers, canvas } = project
  const named: Named = {
    layers: layers.map((layer) => layer.id),
    saved: project.saved.map((saved) => saved.id),
    pictures: pictures.map((picture) => picture.asset),
  }
  const layer = layers.length ? random.one(layers) : null,
    masked = layers.filter((each) => each.mask)
  const steps = (most = 3) =>
    Array.from({ length: random.whole(1, most + 1) }, () =>
      anyStep(random, canvas, named, random.chance(0.9) ? QUICK : undefined),
    )
  const colour = (): Hex => `#${Array.from({ length: 6 }, () => random.one([...'0123456789abcdef'])).join('')}`
  const fill = (): Fill =>
    random.chance(0.5)
      ? { kind: 'colour', colour: colour() }
      : {
          kind: 'gradient',
          shape: random.one(['linear', 'radial', 'conic', 'mirrored', 'rhombus']),
          from: [random.between(0, canvas.width), random.between(0, canvas.height)],
          to: [random.between(0, canvas.width), random.between(0, canvas.height)],
          stops: [
            { at: 0, colour: colour(), alpha: random.one([0, 0.5, 1]) },
            { at: 1, colour: colour(), alpha: random.one([0, 1]) },
          ],
        }
  const placement = (): Affine =>
    random.chance(0.5)
      ? translation(random.whole(-40, 60), random.whole(-40, 60))
      : compose(
          translation(random.between(-30, 60), random.between(-30, 60)),
          compose(rotation(random.one([0, 13, -70])), scaling(random.between(0.4, 1.6))),
        )
  const maskValues = () => ({
    invert: random.chance(0.4),
    strength: random.one([1, 1, 0.6]),
    feather: random.one([0, 0, 4]),
    outsideShown: random.chance(0.3),
    unlinked: random.chance(0.2),
    fringe: random.one([0, 1, 1, 0.5]),
    rim: random.one([0, 0, 3]),
    enabled: random.chance(0.9),
  })
  const added = (made: Layer): NamedEdit => ({ label: `add ${made.kind}`, edit: addLayer(made, layer?.id ?? null) })
  const draws: [weight: number, draw: () => NamedEdit | null][] = [
    [
      3,
      () => ({
        label: 'add a picture',
        edit: addPicture(random.one(pictures), newId(), layer && random.chance(0.3) ? layer.id : null),
      }),
    ],
    [2, () => added(fillLayer(newId(), 'Fill', canvas, fill()))],
    [
      4,
      () => {
        const kind = random.one(Object.keys(ADJUSTMENTS) as AdjustmentKind[])
        return added(adjustLayer(newId(), kind, canvas, parseAdjustment({ kind, ...VALUES[kind]?.(random) })))
      },
    ],
    [1, () => added(paintLayer(newId(), 'Paint', canvas))],
    [
      4,
      () => {
        const target = layers.find((each) => each.kind === 'paint'),
          step = anyStep(random, canvas, named, ['paint', 'rectangle', 'similarColour'])
        if (!target || !isFinding(step)) return null
        const plain: FindingStep = { ...step, op: 'add', invert: false }
        return {
          label: 'paint',
          edit: paint(
            target.id,
            newId(),
            {
              fill: fill(),
              erase: random.chance(0.2),
              within: { version: 1, steps: random.chance(0.3) ? steps(1) : [] },
            },
            random.chance(0.8) ? plain : null,
          ),
        }
      },
    ],
    [
      6,
      () =>
        layer && { label: `mask ${layer.kind}`, edit: setMask(layer.id, { version: 1, steps: steps() }, maskValues()) },
    ],
    [
      4,
      () => {
        const other = layers.filter((each) => each !== layer)
        if (!layer || !other.length) return null
        const step = {
          ...anyStep(random, canvas, { ...named, layers: other.map((each) => each.id) }, ['layer']),
          op: 'add',
          invert: random.chance(0.5),
        }
        return {
          label: 'mask from a layer',
          edit: setMask(layer.id, { version: 1, steps: [step as never] }, maskValues()),
        }
      },
    ],
    [
      5,
      () =>
        masked.length ? { label: 'values of a mask', edit: changeMask(random.one(masked).id, maskValues()) } : null,
    ],
    [
      1,
      () => (masked.length && layer ? { label: 'copy a mask', edit: copyMask(random.one(masked).id, layer.id) } : null),
    ],
    [
      1,
      () =>
        masked.length
          ? { label: 'move a mask', edit: moveMask(random.one(masked).id, translation(random.whole(-20, 20), 7)) }
          : null,
    ],
    [1, () => (masked.length ? { label: 'remove a mask', edit: removeMask(random.one(masked).id) } : null)],
    [3, () => ({ label: 'select', edit: addStep(SELECTION, steps(1)[0]) })],
    [1, () => ({ label: 'save the selection', edit: saveSelection(newId(), 'Kept') })],
    [3, () => layer && { label: 'make mask', edit: makeMask(layer.id) }],
    [
      1,
      () =>
        layer?.kind === 'picture'
          ? {
              label: 'new sky',
              edit: replaceSky(
                layer.id,
                random.one(pictures),
                steps(),
                {
                  placement: scaling(random.between(-1.5, 1.5) || 1, 1),
                  mirrored: false,
                  haze: parseAdjustment({ kind: 'haze', ...hazy(random) }) as AdjustmentOf<'haze'>,
                  reflection: reflection(random),
                  relight: parseAdjustment({ kind: 'relight', ...relight(random) }) as AdjustmentOf<'relight'>,
                  blur: random.chance(0.3)
                    ? (parseAdjustment({ kind: 'gaussianBlur', radius: 3 }) as AdjustmentOf<'gaussianBlur'>)
                    : null,
                  grain: random.chance(0.5)
                    ? (parseAdjustment({ kind: 'grain', amount: random.between(0, 0.4) }) as AdjustmentOf<'grain'>)
                    : null,
                },
                newId,
              ),
            }
          : null,
    ],
    [
      1,
      () => {
        const light = layer && newSkyAt(project.layers, layer.id)?.light
        return light && !light.mask ? { label: 'a subject apart', edit: subjectApart(light, newId) } : null
      },
    ],
    [
      2,
      () => {
        const parts = layer && newSkyAt(project.layers, layer.id)
        return parts?.light && !parts.water
          ? { label: 'sky in the water', edit: skyInWater(parts, reflection(random), newId) }
          : null
      },
    ],
    [
      1,
      () => {
        const at = layer && matchedAt(project.layers, layer.id)
        return at
          ? {
              label: 'match to the surroundings',
              edit: matchToSurroundings(at, matchedLayer(random), newId),
            }
          : null
      },
    ],
    [1, () => (layer && layer.kind !== 'adjust' ? { label: 'lift', edit: liftCopy(layer.id, newId) } : null)],
    [1, () => (layer && layer.kind !== 'adjust' ? { label: 'cut', edit: cutOut(layer.id, newId) } : null)],
    [1, () => (layer && layer.kind !== 'adjust' ? { label: 'erase', edit: eraseSelected(layer.id, newId) } : null)],
    [4, () => layer && { label: 'place', edit: placeLayer(layer.id, placement()) }],
    [
      5,
      () =>
        layer && {
          label: 'change',
          edit: changeLayer(layer.id, {
            opacity: random.one([1, 1, 0.4, 0]),
            visible: random.chance(0.85),
            blend: random.one(BLEND_MODES),
          }),
        },
    ],
    [3, () => layer && { label: 'clip', edit: changeLayer(layer.id, { clipped: random.chance(0.7) }) }],
    [2, () => layer && { label: 'step', edit: stepLayer(layer.id, random.one([1, -1])) }],
    [1, () => layer && { label: 'duplicate', edit: duplicateLayer(layer.id, newId) }],
    [2, () => layer && { label: 'group', edit: groupLayers([layer.id], newId(), 'Group', random.chance(0.5)) }],
    [
      1,
      () => {
        const group = layers.find((each) => each.kind === 'group')
        return group ? { label: 'ungroup', edit: ungroup(group.id) } : null
      },
    ],
    [
      layers.length > 8 ? 6 : 1,
      () => (layers.length > 1 && layer ? { label: 'remove', edit: removeLayer(layer.id) } : null),
    ],
    [1, () => ({ label: 'linear', edit: setLinear(!project.linear) })],
    [
      1,
      () => ({
        label: 'window',
        edit: setWindow(
          random.chance(0.4)
            ? null
            : {
                ...wholeWindow(canvas),
                width: canvas.width - random.whole(0, 60),
                height: canvas.height - random.whole(0, 40),
                turn: random.one([0, 0, 8]),
              },
        ),
      }),
    ],
  ]
  for (;;) {
    let at = random() * draws.reduce((sum, [weight]) => sum + weight, 0)
    const found = draws.find(([weight]) => (at -= weight) < 0)?.[1]()
    if (found) return found
  }
}
