/** Project records from outside (the network, a file): checked field by field, refused in one sentence. */
import { type AdjustmentRecord, parseAdjustment } from '@/core/compose/adjustments/registry'
import { type Fill, fillProblem } from '@/core/compose/fill'
import { BLEND_MODES } from '@/core/compose/modes'
import { type Affine } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { isText } from '@/core/fields/fields'
import { checkOnce, parseRecipe, parseStep, RecipeError } from '@/core/formats/recipe'
import { type Step, type StepOfKind } from '@/core/steps/registry'
import { inTodaysWords } from './earlierWords'
import { LIMITS } from './limits'
import { ancestorsOf, DEEPEST, sceneNames } from './tree'
import {
  type Area,
  type Guide,
  type KeptScene,
  type Layer,
  type LayerMask,
  type PaintItem,
  type Project,
  type SavedPath,
  type SavedSelection,
  USUAL_PPI,
  type Window,
} from './types'

export class ProjectError extends Error {}

type Json = Record<string, unknown>
const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v)
function fail(path: string, takes: string): never {
  throw new ProjectError(`${path}: takes ${takes}.`)
}

function text(v: unknown, path: string, longest: number): string {
  return isText(v, longest)
    ? v
    : fail(path, `a text of up to ${longest} characters, without NUL or half surrogate pairs`)
}
function flag(v: unknown, path: string): boolean {
  return typeof v === 'boolean' ? v : fail(path, 'true or false')
}
function size(v: unknown, path: string): Size {
  const side = (n: unknown) => Number.isInteger(n) && (n as number) >= 1 && (n as number) <= LIMITS.side
  if (!isObject(v) || !side(v.width) || !side(v.height))
    fail(path, `a width and a height in whole px up to ${LIMITS.side}`)
  const { width, height } = v as unknown as Size
  if (width * height > LIMITS.pixels) fail(path, `at most ${LIMITS.pixels / 1e6} megapixels`)
  return { width, height }
}
function affine(v: unknown, path: string): Affine {
  return Array.isArray(v) && v.length === 6 && v.every((n) => typeof n === 'number' && Math.abs(n) <= 1e9)
    ? (v as unknown as Affine)
    : fail(path, 'six finite numbers [a, b, c, d, e, f]')
}

function share(v: unknown, path: string): number {
  return typeof v === 'number' && v >= 0 && v <= 1 ? v : fail(path, 'a number from 0 to 1')
}
/** Fields that are only written down where they differ from the usual: kept as they are, checked where they are there. */
function optional<T extends object>(
  v: Json,
  path: string,
  checks: { [K in keyof T]-?: (value: unknown, path: string) => T[K] },
): T {
  const out: Partial<T> = {}
  for (const name of Object.keys(checks) as (keyof T & string)[])
    if (v[name] !== undefined) out[name] = checks[name](v[name], `${path}.${name}`)
  return out as T
}
const id = (v: unknown, path: string): string => text(v, path, 64)

function parseArea(v: unknown, path: string, depth: number): Area {
  if (!isObject(v)) fail(path, 'an area')
  return {
    recipe: parseRecipe(v.recipe, `${path}.recipe`),
    frame: size(v.frame, `${path}.frame`),
    scene:
      typeof v.scene === 'string' ? id(v.scene, `${path}.scene`) : parseLayers(v.scene, `${path}.scene`, depth + 1),
    sceneLayer: id(v.sceneLayer, `${path}.sceneLayer`),
    saved: parseSaved(v.saved, `${path}.saved`),
  }
}

function parseMask(v: unknown, path: string, depth: number): LayerMask | null {
  if (v === null) return null
  if (!isObject(v)) fail(path, 'a mask or null')
  const radius = (value: unknown, at: string) =>
    typeof value === 'number' && value >= 0 && value <= LIMITS.side
      ? value
      : fail(at, `a number of px up to ${LIMITS.side}`)
  const rim = (value: unknown, at: string) =>
    typeof value === 'number' && value >= 0 && value <= 10 ? value : fail(at, 'a number of px from 0 to 10')
  return {
    ...parseArea(v, path, depth),
    enabled: flag(v.enabled, `${path}.enabled`),
    toLayer: affine(v.toLayer, `${path}.toLayer`),
    ...optional<Pick<LayerMask, 'feather' | 'strength' | 'invert' | 'unlinked' | 'outsideShown' | 'fringe' | 'rim'>>(
      v.density === undefined ? v : { ...v, strength: v.strength ?? v.density }, // as earlier versions called it
      path,
      { feather: radius, strength: share, invert: flag, unlinked: flag, outsideShown: flag, fringe: share, rim },
    ),
  }
}

function fillOf(v: unknown, path: string): Fill {
  const problem = fillProblem(v)
  return problem ? fail(path, problem) : (inTodaysWords(v) as Fill)
}

function parseItem(v: Json, path: string, depth: number): PaintItem {
  return {
    id: id(v.id, `${path}.id`),
    fill: fillOf(v.fill, `${path}.fill`),
    erase: flag(v.erase, `${path}.erase`),
    strength: share(v.strength, `${path}.strength`),
    area: parseArea(v.area, `${path}.area`, depth),
    toLayer: affine(v.toLayer, `${path}.toLayer`),
  }
}

const KINDS = ['picture', 'fill', 'paint', 'adjust', 'group'] as const

const parseLayer = (v: unknown, path: string, depth: number): Layer =>
  depth === 0 ? checkOnce(v, () => layerFrom(v, path, depth)) : layerFrom(v, path, depth)
function layerFrom(v: unknown, path: string, depth: number): Layer {
  if (!isObject(v)) fail(path, 'a layer')
  const kind = KINDS.find((each) => each === v.kind) ?? fail(`${path}.kind`, `one of ${KINDS.join(', ')}`)
  const layer = {
    id: id(v.id, `${path}.id`),
    name: text(v.name, `${path}.name`, LIMITS.name),
    ...size(v, path),
    placement: affine(v.placement, `${path}.placement`),
    opacity: share(v.opacity, `${path}.opacity`),
    visible: flag(v.visible, `${path}.visible`),
    mask: parseMask(v.mask, `${path}.mask`, depth),
    ...optional<Pick<Layer, 'blend' | 'clipped' | 'locked' | 'parent' | 'joins'>>(v, path, {
      blend: (value, at) => BLEND_MODES.find((mode) => mode === value) ?? fail(at, `one of ${BLEND_MODES.join(', ')}`),
      clipped: flag,
      locked: flag,
      parent: id,
      joins: flag,
    }),
  }
  if (kind === 'group') return { ...layer, kind, passThrough: flag(v.passThrough, `${path}.passThrough`) }
  if (kind === 'fill') return { ...layer, kind, fill: fillOf(v.fill, `${path}.fill`) }
  if (kind === 'paint')
    return {
      ...layer,
      kind,
      items: listOf(v.items, `${path}.items`, LIMITS.items, (item, at) => parseItem(item, at, depth)),
    }
  if (kind === 'adjust') {
    const adjustment = adjustmentFrom(v.adjustment, `${path}.adjustment`)
    if (v.measured === undefined) return { ...layer, kind, adjustment }
    const measured = adjustmentFrom(v.measured, `${path}.measured`)
    if (measured.kind !== adjustment.kind) fail(`${path}.measured.kind`, `the adjustment's own, ${adjustment.kind}`)
    return { ...layer, kind, adjustment, measured }
  }
  if (typeof v.asset !== 'string' || !/^[0-9a-f]{64}$/.test(v.asset)) fail(`${path}.asset`, 'a SHA-256 in hexadecimal')
  return { ...layer, kind, asset: v.asset }
}

function adjustmentFrom(v: unknown, path: string): AdjustmentRecord {
  try {
    return parseAdjustment(v, path)
  } catch (error) {
    throw new ProjectError((error as Error).message)
  }
}

function parseLayers(v: unknown, path: string, depth: number): Layer[] {
  if (depth > LIMITS.nesting)
    throw new ProjectError(`${path}: masks made on masked layers are nested deeper than ${LIMITS.nesting} times.`)
  if (!Array.isArray(v) || v.length > LIMITS.layers) fail(path, `a list of up to ${LIMITS.layers} layers`)
  const layers = v.map((layer, i) => parseLayer(layer, `${path}[${i}]`, depth))
  if (new Set(layers.map((l) => l.id)).size !== layers.length) fail(path, 'layers with ids of their own')
  layers.forEach((layer, i) => {
    if (layer.parent && layers.find((l) => l.id === layer.parent)?.kind !== 'group')
      fail(`${path}[${i}].parent`, 'the id of a group')
    const around = ancestorsOf(layers, layer.id)
    if (around.includes(layer)) fail(`${path}[${i}].parent`, 'a group that does not lie in this one')
    if (around.length + (layer.kind === 'group' ? 1 : 0) > DEEPEST)
      throw new ProjectError(`${path}[${i}]: groups lie in groups up to ${DEEPEST} deep.`)
  })
  return layers
}

/** A list that earlier records do not have; its entries have ids of their own. */
function listOf<T extends { id: string }>(
  v: unknown,
  path: string,
  most: number,
  parse: (entry: Json, path: string) => T,
): T[] {
  if (v === undefined) return []
  if (!Array.isArray(v) || v.length > most) fail(path, `a list of up to ${most}`)
  const list = v.map((entry: unknown, i) =>
    isObject(entry) ? parse(entry, `${path}[${i}]`) : fail(`${path}[${i}]`, 'an object'),
  )
  if (new Set(list.map((entry) => entry.id)).size !== list.length) fail(path, 'entries with ids of their own')
  return list
}
const parseSaved = (v: unknown, path: string): SavedSelection[] =>
  listOf(v, path, LIMITS.kept, (entry, at) => ({
    id: text(entry.id, `${at}.id`, 64),
    name: text(entry.name, `${at}.name`, LIMITS.name),
    recipe: parseRecipe(entry.recipe, `${at}.recipe`),
  }))
const parsePath = (entry: Json, at: string): SavedPath => ({
  id: text(entry.id, `${at}.id`, 64),
  name: text(entry.name, `${at}.name`, LIMITS.name),
  d: (parseStep({ kind: 'path', d: entry.d }, at) as StepOfKind<'path'>).d,
})
function parseGuide(entry: Json, at: string): Guide {
  if (entry.axis !== 'x' && entry.axis !== 'y') fail(`${at}.axis`, '"x" or "y"')
  if (typeof entry.at !== 'number' || Math.abs(entry.at) > LIMITS.side * 2)
    fail(`${at}.at`, `a number of px up to ${LIMITS.side * 2}`)
  return { id: text(entry.id, `${at}.id`, 64), axis: entry.axis, at: entry.at }
}

function resolution(v: unknown): number {
  if (v === undefined) return USUAL_PPI
  return typeof v === 'number' && v >= 1 && v <= 10_000 ? v : fail('ppi', 'a number of pixels per inch from 1 to 10000')
}

function parseWindow(v: unknown, path: string): Window {
  if (!isObject(v)) fail(path, 'a window')
  const within = (n: unknown, most: number, name: string): number =>
    typeof n === 'number' && Math.abs(n) <= most ? n : fail(`${path}.${name}`, `a number up to ${most}`)
  return {
    cx: within(v.cx, 1e6, 'cx'),
    cy: within(v.cy, 1e6, 'cy'),
    ...size(v, path),
    turn: within(v.turn, 360, 'turn'),
  }
}

/** Every scene that is looked at must be there, and none may look at itself by way of others. */
function checkScenes(scenes: readonly KeptScene[], layers: readonly Layer[], steps: readonly Step[]): void {
  const names = new Map(scenes.map((scene) => [scene.id, sceneNames(scene.layers)]))
  const need = (name: string) => {
    if (!names.has(name)) throw new ProjectError(`scenes: the scene ${name} that steps look at is not there.`)
  }
  sceneNames(layers, steps).forEach(need)
  // Scenes in an order in which each comes after those it looks at; what is left looks at itself.
  let open = [...names]
  for (const [, looked] of open) looked.forEach(need)
  for (let done = new Set<string>(); open.length;) {
    const ready = open.filter(([, looked]) => looked.every((name) => done.has(name)))
    if (!ready.length) throw new ProjectError(`scenes: the scene ${open[0][0]} looks at itself.`)
    done = new Set([...done, ...ready.map(([id]) => id)])
    open = open.filter(([id]) => !done.has(id))
  }
}

/** Records of any earlier form are completed. Throws ProjectError or RecipeError. */
export function parseProject(v: unknown): Project {
  if (!isObject(v) || v.version !== 1) throw new ProjectError('project.version: takes 1.')
  const layers = parseLayers(v.layers, 'layers', 0)
  const scenes =
    v.scenes === undefined
      ? undefined
      : listOf(v.scenes, 'scenes', LIMITS.scenes, (scene, at): KeptScene =>
          checkOnce(scene, () => ({
            id: id(scene.id, `${at}.id`),
            layers: parseLayers(scene.layers, `${at}.layers`, 0),
            ...optional<{ linear?: boolean }>(scene, at, { linear: flag }),
          })),
        )
  const selection = parseRecipe(v.selection, 'selection'),
    saved = parseSaved(v.saved, 'saved')
  checkScenes(
    scenes ?? [],
    layers,
    [selection, ...saved.map((each) => each.recipe)].flatMap((recipe) => recipe.steps),
  )
  if (v.activeLayer !== null && !layers.some((l) => l.id === v.activeLayer))
    fail('activeLayer', 'the id of a layer, or null')
  return {
    version: 1,
    name: text(v.name, 'name', LIMITS.name),
    canvas: size(v.canvas, 'canvas'),
    ppi: resolution(v.ppi),
    layers,
    ...optional<Pick<Project, 'linear' | 'window'>>(v, 'project', { linear: flag, window: parseWindow }),
    ...(scenes ? { scenes } : {}),
    activeLayer: v.activeLayer as string | null,
    selection,
    saved,
    paths: listOf(v.paths, 'paths', LIMITS.kept, parsePath),
    guides: listOf(v.guides, 'guides', LIMITS.kept, parseGuide),
  }
}

export const isRecordError = (error: unknown): error is Error =>
  error instanceof ProjectError || error instanceof RecipeError
