// Everything the kernels offer; compiled by `npm run kernels` into ../compiled.ts.
export { layOver, maxRows } from './brush'
export { lookUpColours, mapBytes } from './tables'
export { fillRows, makeEdges } from './fill'
export {
  compositeRow,
  convertRow,
  coverRow,
  discRow,
  matrixRow,
  mixRow,
  packRow,
  scaleFloats,
  splineRow,
  sumRow,
  throughTables,
  turnHues,
  unpackRow,
  weighRow,
} from './compose'
export { sampleRow } from './sample'
export { settleRow, weighRows, weighSpans } from './resize'
export { addWindows, multiplyNodes, stepNodes, turnNodes } from './matting'
export { clearFlow, joinRow, pushFlow } from './flow'
export { doubleStates, giveStates, hearRow, keepInside, markRow, openBand, shrinkInside } from './states'
export { labRow } from './lab'
export { halveRow } from './levels'
export { likeliest } from './mixture'
export { calmRow, cellRow, cheapestWays, opponentRow, slopeRow } from './wire'
