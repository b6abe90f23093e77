/**
 * Which part may import which. One direction of flow: a rule broken here is a piece of code in the wrong place.
 * The order of the core's folders is the order of the flow: a folder imports only those named before it.
 */
const coreOrder = [
  'geometry',
  'compare',
  'camera',
  'drawing',
  'spatial',
  'intent',
  'pyramid',
  'solid',
  'clip',
  'walk',
  'device',
  'stroke',
  'plane',
  'view',
  'trail',
  'motion',
  'measure',
  'snap',
  'typed',
  'planar',
  'hidden-lines',
  'marks',
  'tools',
  'pick',
  'seen',
  'find',
  'panes',
  'tour',
  'sheets',
];
const allowedInCore = {
  geometry: [],
  compare: ['geometry'],
  camera: ['geometry'],
  drawing: ['geometry'],
  spatial: ['geometry', 'drawing'],
  intent: ['geometry', 'camera'],
  pyramid: ['geometry', 'camera', 'drawing', 'spatial'],
  solid: ['geometry', 'camera', 'drawing', 'spatial', 'pyramid'],
  clip: ['geometry', 'drawing', 'solid'],
  walk: ['geometry', 'camera'],
  device: ['geometry', 'camera'],
  stroke: ['geometry', 'pyramid'],
  snap: ['geometry', 'camera', 'drawing', 'solid'],
  plane: ['geometry', 'camera'],
  view: ['camera', 'drawing', 'solid', 'clip', 'plane'],
  trail: ['camera', 'view'],
  motion: ['geometry', 'camera', 'trail'],
  measure: ['geometry', 'drawing'],
  typed: ['drawing'],
  planar: ['geometry', 'drawing'],
  marks: ['geometry', 'drawing', 'measure', 'plane'],
  tools: ['geometry', 'camera', 'intent', 'measure', 'snap', 'marks'],
  pick: ['geometry', 'camera', 'drawing', 'pyramid'],
  seen: ['geometry', 'pick'],
  find: ['drawing', 'typed'],
  panes: ['geometry', 'camera'],
  tour: ['geometry', 'camera'],
  'hidden-lines': ['geometry', 'drawing', 'solid', 'clip', 'planar'],
  sheets: ['geometry', 'camera', 'drawing', 'measure', 'plane', 'planar', 'marks'],
  drills: ['geometry', 'camera'],
};
/** The same of the page's folders, from what knows nothing of the product's state to whole pages. */
const webOrder = [
  ...['basics', 'inspect', 'wire', 'api', 'motion', 'tiles', 'picking', 'finding', 'render'],
  ...['store', 'theme', 'words', 'actions', 'marks', 'snapping', 'input', 'session'],
  ...['controls', 'trail', 'find', 'tools', 'help', 'bar', 'share', 'shelf', 'tour', 'panes', 'sheets', 'pages'],
];
/** Of those that may import less than all before them. */
const allowedInWeb = {
  ...{ inspect: [], wire: [], api: [], motion: [], tiles: [], picking: ['basics'], finding: ['basics'] },
  render: ['tiles', 'basics'],
  store: ['basics', 'wire', 'api', 'motion', 'picking', 'finding'],
};
const allowedPackages = {
  core: [],
  protocol: ['core'],
  importers: ['core'],
  exporters: ['core'],
  exchange: ['core', 'protocol'],
  demo: ['core'],
  server: ['core', 'protocol', 'importers', 'exporters', 'exchange', 'demo'],
  web: ['core', 'protocol', 'exchange'],
};

const coreRules = coreOrder.map((folder) => ({
  name: `core-${folder}`,
  comment: `core/${folder} may import only ${[folder, ...allowedInCore[folder]].join(', ')}`,
  severity: 'error',
  from: { path: `^packages/core/src/${folder}/`, pathNot: '\\.test\\.ts$' },
  to: { path: '.', pathNot: `^packages/core/src/(${[folder, ...allowedInCore[folder]].join('|')})/` },
}));
const webRules = webOrder.map((folder, place) => {
  const allowed = [folder, ...(allowedInWeb[folder] ?? webOrder.slice(0, place))];
  return {
    name: `web-${folder}`,
    comment: `web/${folder} may import only ${allowed.join(', ')}`,
    severity: 'error',
    from: { path: `^packages/web/src/${folder}/`, pathNot: '\\.test\\.tsx?$' },
    to: { path: '^packages/web/src/', pathNot: `^packages/web/src/(${allowed.join('|')})/` },
  };
});
const packageRules = Object.entries(allowedPackages).map(([name, allowed]) => ({
  name: `package-${name}`,
  comment: `packages/${name} may import only ${[name, ...allowed].join(', ')} of this repository`,
  severity: 'error',
  from: { path: `^packages/${name}/src/`, pathNot: '\\.test\\.tsx?$' },
  to: { path: '^packages/', pathNot: `^packages/(${[name, ...allowed].join('|')})/` },
}));

module.exports = {
  forbidden: [
    ...coreRules,
    ...packageRules,
    ...webRules,
    {
      name: 'web-folders-known',
      comment: 'a new folder of web/src gets its place in webOrder',
      severity: 'error',
      from: { path: `^packages/web/src/(?!(${webOrder.join('|')})/)[^/]+/` },
      to: {},
    },
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-without-packages',
      comment: 'the core is our own computation: no platform, no package but the tessellator of polygons',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypesNot: ['local', 'aliased', 'localmodule', 'type-only'],
        pathNot: '^(packages/core/|node_modules/libtess)',
      },
    },
    {
      name: 'importers-platform-free',
      severity: 'error',
      from: { path: '^packages/importers/src/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js'],
    },
  },
};
