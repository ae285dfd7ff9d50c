/** Project records from outside (the network, a file): checked field by field, refused in one sentence. */
import { type Affine } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { parseRecipe, RecipeError } from '@/core/formats/recipe'
import { type Layer, type LayerMask, type Project } from './types'

export class ProjectError extends Error {}

/** Bounds of what a project may hold; a canvas of 150 megapixels takes 600 MB to show. */
export const LIMITS = { side: 40_000, pixels: 150e6, layers: 200, nesting: 8, name: 200 } as const

type Json = Record<string, unknown>
const isObject = (v: unknown): v is Json => typeof v === 'object' && v !== null && !Array.isArray(v)
function fail(path: string, takes: string): never { throw new ProjectError(`${path}: takes ${takes}.`) }

function text(v: unknown, path: string, longest: number): string { return typeof v === 'string' && v.length <= longest ? v : fail(path, `a text of up to ${longest} characters`) }
function flag(v: unknown, path: string): boolean { return typeof v === 'boolean' ? v : fail(path, 'true or false') }
function size(v: unknown, path: string): Size {
  const side = (n: unknown) => Number.isInteger(n) && (n as number) >= 1 && (n as number) <= LIMITS.side
  if (!isObject(v) || !side(v.width) || !side(v.height)) fail(path, `a width and a height in whole px up to ${LIMITS.side}`)
  const { width, height } = v as unknown as Size
  if (width * height > LIMITS.pixels) fail(path, `at most ${LIMITS.pixels / 1e6} megapixels`)
  return { width, height }
}
function affine(v: unknown, path: string): Affine {
  return Array.isArray(v) && v.length === 6 && v.every((n) => typeof n === 'number' && Math.abs(n) <= 1e9) ? (v as unknown as Affine) : fail(path, 'six finite numbers [a, b, c, d, e, f]')
}

function parseMask(v: unknown, path: string, depth: number): LayerMask | null {
  if (v === null) return null
  if (!isObject(v)) fail(path, 'a mask or null')
  return {
    recipe: parseRecipe(v.recipe, `${path}.recipe`), enabled: flag(v.enabled, `${path}.enabled`), frame: size(v.frame, `${path}.frame`),
    toLayer: affine(v.toLayer, `${path}.toLayer`), scene: parseLayers(v.scene, `${path}.scene`, depth + 1), sceneLayer: text(v.sceneLayer, `${path}.sceneLayer`, 64),
  }
}

function parseLayer(v: unknown, path: string, depth: number): Layer {
  if (!isObject(v)) fail(path, 'a layer')
  if (v.kind !== 'picture') fail(`${path}.kind`, '"picture"')
  if (typeof v.asset !== 'string' || !/^[0-9a-f]{64}$/.test(v.asset)) fail(`${path}.asset`, 'a SHA-256 in hexadecimal')
  if (typeof v.opacity !== 'number' || !(v.opacity >= 0 && v.opacity <= 1)) fail(`${path}.opacity`, 'a number from 0 to 1')
  return {
    id: text(v.id, `${path}.id`, 64), kind: 'picture', name: text(v.name, `${path}.name`, LIMITS.name), asset: v.asset, ...size(v, path),
    placement: affine(v.placement, `${path}.placement`), opacity: v.opacity, visible: flag(v.visible, `${path}.visible`), mask: parseMask(v.mask, `${path}.mask`, depth),
  }
}

function parseLayers(v: unknown, path: string, depth: number): Layer[] {
  if (depth > LIMITS.nesting) throw new ProjectError(`${path}: masks made on masked layers are nested deeper than ${LIMITS.nesting} times.`)
  if (!Array.isArray(v) || v.length > LIMITS.layers) fail(path, `a list of up to ${LIMITS.layers} layers`)
  const layers = v.map((layer, i) => parseLayer(layer, `${path}[${i}]`, depth))
  if (new Set(layers.map((l) => l.id)).size !== layers.length) fail(path, 'layers with ids of their own')
  return layers
}

/** Throws ProjectError or RecipeError. */
export function parseProject(v: unknown): Project {
  if (!isObject(v) || v.version !== 1) throw new ProjectError('project.version: takes 1.')
  const layers = parseLayers(v.layers, 'layers', 0)
  if (v.activeLayer !== null && !layers.some((l) => l.id === v.activeLayer)) fail('activeLayer', 'the id of a layer, or null')
  return { version: 1, name: text(v.name, 'name', LIMITS.name), canvas: size(v.canvas, 'canvas'), layers, activeLayer: v.activeLayer as string | null, selection: parseRecipe(v.selection, 'selection') }
}

export const isRecordError = (error: unknown): error is Error => error instanceof ProjectError || error instanceof RecipeError
