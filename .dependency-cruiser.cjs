/** The house's floors: imports only point down (docs/ARCHITECTURE.md). `npm run imports` checks it. */
const TEST = '\\.test\\.ts$|^tests/'

/** Which floor may import which. */
const FLOORS = {
  core: [],
  document: ['core'],
  engine: ['document', 'core'],
  server: ['engine', 'document', 'core'],
  cli: ['server', 'engine', 'document', 'core'],
  ui: ['engine', 'document', 'core'],
  app: ['ui', 'server'],
}
/** Within core, each room and those it may use. */
const ROOMS = {
  fields: [],
  cache: [],
  kernels: [],
  parallel: [],
  raster: ['kernels'],
  colour: ['raster', 'kernels'],
  vector: ['raster', 'kernels'],
  steps: ['fields', 'vector', 'raster'],
  network: ['parallel', 'vector', 'raster', 'kernels'],
  segment: ['fields', 'cache', 'parallel', 'steps', 'network', 'vector', 'colour', 'raster', 'kernels'],
  matting: ['fields', 'parallel', 'colour', 'raster', 'kernels', 'network'],
  select: [
    'fields',
    'cache',
    'parallel',
    'steps',
    'matting',
    'segment',
    'network',
    'vector',
    'colour',
    'raster',
    'kernels',
  ],
  edge: ['fields', 'parallel', 'colour', 'raster', 'vector', 'select', 'kernels'],
  compose: ['fields', 'cache', 'parallel', 'edge', 'colour', 'raster', 'kernels'],
  formats: ['fields', 'steps', 'raster', 'vector'],
}
/** Within ui, lowest first: the workbench uses all of them, none of them uses the workbench. */
const UI_ROOMS = {
  primitives: [],
  store: ['primitives'],
  canvas: ['store', 'primitives'],
  finders: ['canvas', 'store', 'primitives'],
  modifiers: ['finders', 'canvas', 'store', 'primitives'],
  adjustments: ['store', 'primitives'],
  edge: ['modifiers', 'finders', 'canvas', 'store', 'primitives'],
  layers: ['adjustments', 'modifiers', 'finders', 'canvas', 'store', 'primitives'],
  compose: ['layers', 'adjustments', 'finders', 'canvas', 'store', 'primitives'],
  shelf: ['store', 'primitives'],
  library: ['shelf', 'store', 'primitives'],
  export: ['layers', 'store', 'primitives'],
  batch: ['shelf', 'modifiers', 'finders', 'canvas', 'store', 'primitives'],
}
const anyOf = (names) => names.join('|')

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    ...Object.entries(FLOORS).map(([floor, below]) => ({
      name: `${floor}-points-down`,
      comment: `${floor} imports ${below.join(', ') || 'nothing of ours'}`,
      severity: 'error',
      from: { path: `^src/${floor}/`, pathNot: TEST },
      to: { path: '^(src|tests)/', pathNot: `^src/(${anyOf([floor, ...below])})/` },
    })),
    ...Object.entries(ROOMS).map(([room, others]) => ({
      name: `core-${room}`,
      severity: 'error',
      from: { path: `^src/core/${room}/`, pathNot: TEST },
      to: { path: '^src/core/', pathNot: `^src/core/(${anyOf([room, ...others])})/` },
    })),
    {
      name: 'pure-floors-are-pure',
      comment: 'core and document run anywhere: no DOM, no Node, no I/O',
      severity: 'error',
      from: { path: '^src/(core|document)/', pathNot: TEST },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'pure-floors-use-few-packages',
      severity: 'error',
      from: { path: '^src/(core|document)/', pathNot: TEST },
      to: { path: 'node_modules', pathNot: 'node_modules/(immer|lru-cache|flatqueue|valibot)/' },
    },
    {
      name: 'ui-talks-to-the-engine',
      comment: 'the ui knows steps by their descriptions in core/steps, not what finds',
      severity: 'error',
      from: { path: '^src/ui/', pathNot: TEST },
      to: {
        path: '^src/core/(select|segment|matting|kernels|parallel)/',
        dependencyTypesNot: ['type-only'],
      },
    },
    ...Object.entries(UI_ROOMS).map(([room, others]) => ({
      name: `ui-${room}`,
      comment: `ui/${room} imports ${others.join(', ') || 'no other room of ui'}`,
      severity: 'error',
      from: { path: `^src/ui/${room}/`, pathNot: TEST },
      to: { path: '^src/ui/', pathNot: `^src/ui/(${anyOf([room, ...others])})/`, dependencyTypesNot: ['type-only'] },
    })),
    {
      name: 'ui-primitives-know-nothing',
      severity: 'error',
      from: { path: '^src/ui/primitives/', pathNot: TEST },
      to: { path: '^src/', pathNot: '^src/(ui/primitives|core)/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '^src/core/kernels/assembly/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
    },
  },
}
