/** A tree of regions, and what decides in which order they are merged. */

export interface RegionTree {
  readonly width: number
  readonly height: number
  /** The basin of each pixel, 0 … basins − 1. */
  readonly basinOf: Int32Array
  readonly basins: number
  /** parent[i] of basins (0 … basins − 1) and of merged regions (from `basins` on, in the order they were merged); the last is the root, its own parent. */
  readonly parent: Int32Array
  /** What the merge that made a region cost, never falling; 0 for basins. */
  readonly mergeCost: Float32Array
  /** What each region looks like: its pixels, and their mean L*, a*, b*. */
  readonly area: Float32Array
  readonly colour: Float32Array
  /** Neighbouring basins: pairs, the length of their common boundary and its mean strength. */
  readonly pairs: Int32Array
  readonly lengths: Float32Array
  readonly strengths: Float32Array
}
/** What a merge costs. */
export interface MergeCost {
  /** Regions on either side of something thin are neighbours too: sky between bars is sky. */
  readonly acrossThin?: true
  /** How much the boundary's strength counts beside the difference of the mean colours. */
  readonly boundary: number
  /** Size counts by this power of the harmonic mean of the areas. */
  readonly size: number
}
/** For cuts: small regions of one colour. */
export const BY_COLOUR: MergeCost = { boundary: 1, size: 0.35 }
/** For people: things with an outline. */
export const BY_OUTLINE: MergeCost = { acrossThin: true, boundary: 6, size: 0.5 }
