/** Imports point one way: app, server, cli to core; inside core downwards only. See docs/architecture.md. */
const inside = (folder) => `^packages/core/src/${folder}/`;
const forbid = (name, from, to, comment) => ({
  name,
  severity: 'error',
  comment,
  from: { path: from, pathNot: '\\.test\\.ts$' },
  to: { path: to },
});

/** The rooms of the app, from the lowest to the highest. Each may import from those before it. */
const ROOMS = [
  'theme|pointer',
  'jobs|storage',
  'workers|takes',
  'session|stores',
  'acts',
  'fields',
  'viewport|timeline',
  'stations',
  'keys',
  'screens',
];
const room = (names) => `^packages/app/src/(${names})/`;
const appRooms = ROOMS.slice(0, -1).map((names, i) =>
  forbid(
    `app-${names.replaceAll('|', '-')}`,
    room(names),
    room(ROOMS.slice(i + 1).join('|')),
    'Rooms of the app import downwards only.',
  ),
);

module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', comment: 'One-way imports.', from: {}, to: { circular: true } },
    forbid(
      'core-stands-alone',
      '^packages/core/',
      '^(packages/(app|server|cli)|demo|bench|e2e)/',
      'Core knows nobody above it.',
    ),
    forbid(
      'charts-stand-alone',
      '^packages/charts/',
      '^(packages/(app|server|cli|core|kernel)|demo|bench|e2e)/',
      'Charts draw what they are given.',
    ),
    forbid('core-without-node', '^packages/core/src', '^(node:|fs$|path$|crypto$)', 'Core runs in browsers too.'),
    forbid(
      'core-without-interface',
      '^packages/core/',
      'node_modules/(vue|dexie|element-plus)/',
      'No interface code in core.',
    ),
    {
      name: 'three-only-as-a-library-of-geometry',
      severity: 'error',
      comment: 'Core uses the loaders and the hull of three.js, never its scene.',
      from: { path: '^packages/core/', pathNot: `${inside('(exchange/import|mesh/fit)')}|\\.test\\.ts$` },
      to: { path: 'node_modules/three/' },
    },
    forbid(
      'math-is-lowest',
      inside('math'),
      inside('(mesh|fabric|shot|solver|run|cache|exchange|quantity)'),
      'math imports nothing.',
    ),
    forbid(
      'mesh-is-low',
      inside('mesh'),
      inside('(fabric|swatch|shot|solver|run|cache|exchange|quantity)'),
      'mesh knows only math.',
    ),
    forbid(
      'solver-knows-arrays',
      inside('solver'),
      inside('(shot|swatch|run|cache|exchange)'),
      'The solver knows no documents.',
    ),
    forbid(
      'shot-below-run',
      inside('shot'),
      inside('(solver|swatch|run|cache|exchange)'),
      'The document does not know how it is run.',
    ),
    forbid(
      'fabric-below-shot',
      inside('fabric'),
      inside('(shot|solver|swatch|run|cache|exchange)'),
      'Fabrics are plain numbers.',
    ),
    forbid(
      'air-below-shot',
      inside('air'),
      inside('(fabric|shot|solver|swatch|run|cache|exchange|finish)'),
      'Air is plain numbers and what they do.',
    ),
    forbid(
      'cues-below-shot',
      inside('cues'),
      inside('(air|fabric|shot/(?!ids)|solver|swatch|run|cache|exchange|finish)'),
      'What a cue waits for is a function of how cloth is.',
    ),
    forbid(
      'finish-below-shot',
      inside('finish'),
      inside('(air|fabric|shot/(?!ids)|solver|swatch|run|cache|exchange)'),
      'A finishing step is a function of a mesh.',
    ),
    forbid(
      'swatch-below-shot',
      inside('swatch'),
      inside('(shot|run|cache|exchange)'),
      'A swatch test is a function of a fabric.',
    ),
    forbid('server-apart', '^packages/server/', '^packages/(app|cli)/', 'The server serves built files.'),
    forbid('app-apart', '^packages/app/', '^packages/(server|cli)/', 'The app never knows the server.'),
    ...appRooms,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|build|assembly)/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.js', '.vue'],
    },
  },
};
