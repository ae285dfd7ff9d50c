/** The window: the part of the canvas that is shown and delivered. Layers, steps and masks keep the canvas's coordinates, so cropping, straightening and resizing lose nothing. */
import { type Affine, apply, compose, IDENTITY, inverse, rotation, translation } from '@/core/raster/affine'
import { type Size } from '@/core/raster/picture'
import { type Edit } from './history'
import { type Project, type Window } from './records'

/** From the window's pixels to the canvas's. */
export const windowToCanvas = ({ window }: Pick<Project, 'window'>): Affine =>
  window
    ? compose(
        translation(window.cx, window.cy),
        compose(rotation(window.turn), translation(-window.width / 2, -window.height / 2)),
      )
    : IDENTITY
export const canvasToWindow = (project: Pick<Project, 'window'>): Affine => inverse(windowToCanvas(project))
export const windowSize = (project: Pick<Project, 'window' | 'canvas'>): Size =>
  project.window ? { width: project.window.width, height: project.window.height } : project.canvas
/** All of the canvas as a window. */
export const wholeWindow = ({ width, height }: Size): Window => ({
  cx: width / 2,
  cy: height / 2,
  width,
  height,
  turn: 0,
})

/** On whole pixels where it is not turned, so that nothing is resampled. Null: all of the canvas again. */
export const setWindow =
  (window: Window | null): Edit =>
  (project) => {
    if (!window) {
      delete project.window
      return
    }
    const width = Math.max(1, Math.round(window.width)),
      height = Math.max(1, Math.round(window.height)),
      turn = Math.round(window.turn * 100) / 100
    const corner = (middle: number, side: number) =>
      turn === 0 ? Math.round(middle - side / 2) + side / 2 : Math.round(middle * 10) / 10
    project.window = { cx: corner(window.cx, width), cy: corner(window.cy, height), width, height, turn }
  }
/** The corners of the window on the canvas, clockwise from the upper left. */
export const windowCorners = (window: Window): [number, number][] => {
  const map = windowToCanvas({ window })
  return [
    [0, 0],
    [window.width, 0],
    [window.width, window.height],
    [0, window.height],
  ].map(([x, y]) => apply(map, x, y))
}
