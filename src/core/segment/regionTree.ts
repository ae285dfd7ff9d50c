/**
 * The picture's own hierarchy of regions: basins of the gradient, merged two by two into a tree, the least different first. How
 * different two neighbours are is told by their mean colours and the strength of the boundary between them, and small regions go first.
 * Sources: Meyer, "Topographic distance and watershed lines", Signal Processing 38 (1994) (flooding by an ordered queue); Ward,
 * "Hierarchical grouping to optimize an objective function", J. Am. Statistical Association 58 (1963) (what a merge costs);
 * Arbeláez, Maire, Fowlkes and Malik, "Contour detection and hierarchical image segmentation", IEEE PAMI 33 (2011) (boundary strength between regions).
 * That a thing's parts go together before they go with what lies around it, however unlike they look, is ours: see `STANDING`.
 */
import { type LabPlanes } from './labPlanes'
import { colourGradient, floodBasins } from './basins'
import { acrossThin, merge, neighbours, topsOf } from './mergeRegions'
import { BY_COLOUR, type MergeCost, type RegionTree } from './mergeCost'

export interface TreeOptions {
  readonly mergeCost?: MergeCost
  /** Of the same colours, where it is known. */
  readonly gradient?: Float32Array
  /** How far each pixel belongs to what stands out in the picture, 0-1, where that is known. */
  readonly standsOut?: ArrayLike<number>
  readonly check?: (progress: number) => void
}

export function makeRegionTree(
  lab: LabPlanes,
  { mergeCost = BY_COLOUR, gradient = colourGradient(lab), standsOut, check = () => {} }: TreeOptions = {},
): RegionTree {
  const { width, height } = lab
  check(0.1)
  const { basinOf, basins } = floodBasins(gradient, width, height)
  check(0.4)
  const graph = neighbours(basinOf, basins, lab, gradient)
  check(0.5)
  return {
    width,
    height,
    basinOf,
    basins,
    ...graph.table,
    ...merge(
      graph,
      basins,
      mergeCost,
      {
        ...(mergeCost.acrossThin && {
          across: (regionOf: Int32Array, colour: Float32Array) =>
            acrossThin(basinOf, { width, height }, regionOf, colour),
        }),
        ...(standsOut && { standing: meanOf(standsOut, { basinOf, basins, area: graph.area }) }),
      },
      check,
    ),
  }
}

/** The mean of each basin. @param area of each basin, px */
export function meanOf(
  values: ArrayLike<number>,
  { basinOf, basins, area }: Pick<RegionTree, 'basinOf' | 'basins'> & { readonly area: ArrayLike<number> },
): Float32Array {
  const sums = new Float64Array(basins)
  basinOf.forEach((basin, i) => {
    sums[basin] += values[i]
  })
  return Float32Array.from(sums, (sum, basin) => sum / area[basin])
}

/** For each basin the region that holds it when the tree is cut so that `count` regions are left. */
export function cutTree({ parent, basins }: RegionTree, count: number): Int32Array {
  const roots = 2 * basins - Math.max(1, Math.min(basins, Math.round(count))) // regions below this number exist by then
  return topsOf(parent, roots).subarray(0, basins)
}

/** For each basin the largest region that holds it and has at most so many pixels; the basin itself where it has more. */
export function cutTreeByArea({ parent, basins, area }: RegionTree, most: number): Int32Array {
  const top = new Int32Array(parent.length)
  for (let i = parent.length - 1; i >= 0; i--) top[i] = parent[i] === i || area[parent[i]] > most ? i : top[parent[i]]
  return top.subarray(0, basins)
}
