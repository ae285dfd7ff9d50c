/** Subjects, edges, skies and threads beside reference libraries. */
import sharp from 'sharp'
import { composeRegion } from '@/core/compose/composeRegion'
import { plainContext } from '@/core/select/onePicture'
import { liveWire } from '@/core/select/liveWire'
import { regions } from '@/core/select/regions'
import { roughBox } from '@/core/select/roughBox'
import { sky } from '@/core/select/sky'
import { subject } from '@/core/select/subject'
import { quickWire, wirePath, wires } from '@/core/segment/liveWire'
import { measure } from '@/core/match/measure'
import { matchLayer } from '@/core/match/surroundings'
import { edge } from '@/core/select/modifiers/edge'
import { foregroundColours } from '@/core/edge/foregroundColours'
import { unroll } from '@/core/edge/ribbon'
import { threadRows } from './threadRows'
import {
  cv,
  photo,
  scene,
  withSky,
  upperPart,
  hardMat,
  tick,
  whole,
  relit,
  DIMMER,
  hazy,
  mirroring,
  raw,
  opencvContours,
} from './photo'
import {
  smallScene,
  roughly,
  anchors,
  grabCut,
  WINDOW,
  windowMat,
  scissors,
  wireLevels,
  solveEdge,
  textbook,
  edgeValues,
  stroke,
  large,
  softMatte,
  star,
  ribbonOf,
} from './subject'
import { type Row } from './row'

const wire = { reach: 24, edgeGradient: 2.2, followObject: true, antialias: true, sample: 'all' as const }

export const rowsOfSubjects: Row[] = [
  [
    'rough box, 1500 × 1000',
    0.1,
    () => roughBox.find(smallScene, roughly, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'rough box, 12 MP',
    1,
    () => roughBox.find(scene, { ...roughly, box: [566, 113, 3790, 2772] }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'live-wire map of a window',
    0.2,
    () =>
      wires(photo, [2100, 1400], { box: WINDOW, edgeGradient: 2.2 }, (tree) =>
        wirePath(tree, [2100, 1400], [1700, 1000]),
      ),
    'opencv-js IntelligentScissors applyImage, buildMap',
    () => {
      scissors.applyImage(windowMat)
      scissors.buildMap(new cv.Point(500, 500))
    },
  ],
  [
    'live wire to a moving pointer',
    null,
    () => quickWire(wireLevels, [1300, 700], [1300 + (tick() % 50), 1500], 24, 2.2),
    'the map of a window',
    () =>
      wires(photo, [2100, 1400], { box: WINDOW, edgeGradient: 2.2 }, (tree) =>
        wirePath(tree, [2100, 1400], [1700, 1000]),
      ),
  ],
  [
    'live wire along an object, 12 MP',
    null,
    () => liveWire.find(scene, { ...wire, anchors }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  ['edge as a matte, 1500 × 1000', 0.2, solveEdge, 'textbook closed form', textbook],
  ['unsure stroke of 60 px', null, stroke, 'the whole edge', solveEdge],
  [
    'edge step, 12 MP',
    null,
    () =>
      edge.modify({ ...large, data: large.data.slice() }, { ...edgeValues, strokes: [] }, plainContext(1 << 20), scene),
    'the edge of 1500 × 1000',
    solveEdge,
  ],
  [`ribbon of ${unroll(star).length} px`, null, ribbonOf, 'opencv-js findContours', () => opencvContours(hardMat)],
  ['fringe colours, 12 MP', null, () => foregroundColours(photo, large), 'the edge of 1500 × 1000', solveEdge],
  [
    'regions, 12 MP',
    null,
    () => regions.find(scene, { at: [[2000, 1400]], detail: 0.3, sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'subject, 12 MP',
    null,
    () => subject.find(scene, { pick: 0, also: [], sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'sky, 12 MP',
    null,
    () => sky.find(withSky, { openings: 300, twigs: 1, sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'sky where there is none, 12 MP',
    null,
    () => sky.find(scene, { openings: 300, twigs: 1, sample: 'all' }, plainContext()),
    'opencv-js grabCut, 5 iterations, 1500 × 1000',
    grabCut,
  ],
  [
    'what a photo measures, 12 MP',
    null,
    () => measure(withSky.picture('all'), upperPart),
    'sharp stats',
    () => sharp(photo.data, raw).stats(),
  ],
  [
    'a layer to its surroundings, 12 MP',
    null,
    () => matchLayer({ own: photo, shows: large, below: withSky.picture('all'), sky: { own: null, below: null } }),
    'sharp stats',
    () => sharp(photo.data, raw).stats(),
  ],
  [
    'light of a new sky, 12 MP',
    1.5,
    () => composeRegion(relit, whole),
    'sharp recomb',
    () => sharp(photo.data, raw).recomb(DIMMER).raw().toBuffer(),
  ],
  [
    'haze of a new sky, 12 MP',
    null,
    () => composeRegion(hazy, whole),
    'sharp recomb',
    () => sharp(photo.data, raw).recomb(DIMMER).raw().toBuffer(),
  ],
  [
    'a new sky in the water, 12 MP',
    null,
    () => composeRegion(mirroring, whole),
    'sharp recomb',
    () => sharp(photo.data, raw).recomb(DIMMER).raw().toBuffer(),
  ],
  ...threadRows(photo, large, softMatte),
]
