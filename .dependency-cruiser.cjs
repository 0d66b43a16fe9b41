// Arrows only point down: web, cli, server -> contract -> core; inside core, only to folders before.
const coreOrder = [
  'base',
  'music',
  'spans',
  'score',
  'abc',
  'scale',
  'sheet',
  'program',
  'page',
  'paper',
  'reading',
  'cue-kinds',
  'cues',
  'hands',
  'air',
  'settle',
  'passages',
  'drills',
  'climb',
  'readiness',
  'plan',
  'takes',
  'mock',
  'care',
];
const readingOrder = ['line', 'inventory', 'likeness', 'traps', 'demands', 'findings'];
const serverOrder = [
  'db',
  'http',
  'sessions',
  'studio',
  'students',
  'published',
  'practice',
  'passages',
  'cues',
  'findings',
  'pages',
  'scores',
  'takes',
  'units',
  'mocks',
  'record',
  'programs',
  'sheets',
  'season',
  'desk',
  'forecasts',
  'calendar',
  'jobs',
];
const webOrder = ['theme', 'data', 'ui', 'report', 'drill', 'take'];
const pages = [
  'session',
  'season',
  'student',
  'sheet',
  'program',
  'score',
  'settings',
  'desk',
  'lesson',
  'plan',
  'takes',
  'mock',
  'listen',
  'frame',
];
const roomOrder = [
  ...['room', 'ribbon', 'music', 'pages', 'engraving', 'findings', 'passages', 'cues', 'typed'],
];

/** One rule a folder: it may import only folders before it in the order. */
function orderRules(name, root, order) {
  return order.slice(0, -1).map((folder, index) => ({
    name: `${name}-${folder}-looks-back-only`,
    comment: `A folder of ${root} may import only folders earlier in its order.`,
    severity: 'error',
    from: { path: `^${root}/${folder}/` },
    to: { path: `^${root}/(${order.slice(index + 1).join('|')})/` },
  }));
}

module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-imports-nothing-of-ours',
      severity: 'error',
      from: { path: '^core/' },
      to: { path: '^(contract|server|web|cli|demo)/' },
    },
    {
      name: 'contract-imports-core-only',
      severity: 'error',
      from: { path: '^contract/' },
      to: { path: '^(server|web|cli|demo)/' },
    },
    {
      name: 'server-looks-down',
      severity: 'error',
      from: { path: '^server/' },
      to: { path: '^(web|cli|demo)/' },
    },
    {
      name: 'cli-looks-down',
      severity: 'error',
      from: { path: '^cli/' },
      to: { path: '^(web|server|demo)/' },
    },
    {
      name: 'web-looks-down',
      severity: 'error',
      from: { path: '^web/' },
      to: { path: '^(server|cli|demo)/' },
    },
    {
      name: 'core-no-io',
      comment: 'Core is pure: no Node modules outside its specs.',
      severity: 'error',
      from: { path: '^core/src/', pathNot: '\\.spec\\.ts$|/testing/' },
      to: { dependencyTypes: ['core'] },
    },
    ...orderRules('core', 'core/src', coreOrder),
    ...orderRules('server', 'server/src', serverOrder),
    ...orderRules('web', 'web/src/app', webOrder),
    ...orderRules('room', 'web/src/app/score', roomOrder),
    ...pages.map((page) => ({
      name: `web-${page}-stands-alone`,
      comment: 'Pages share through data/ and ui/, never with each other.',
      severity: 'error',
      from: { path: `^web/src/app/${page}/` },
      to: { path: `^web/src/app/(${pages.filter((other) => other !== page).join('|')})/` },
    })),
    {
      name: 'web-shared-knows-no-page',
      severity: 'error',
      from: { path: '^web/src/app/(data|ui|theme|workers)/' },
      to: { path: `^web/src/app/(${pages.join('|')})/` },
    },
    {
      name: 'web-rooms-know-no-page',
      comment: 'The rooms of the score page know nothing of the page that holds them.',
      severity: 'error',
      from: { path: `^web/src/app/score/(${roomOrder.join('|')})/` },
      to: { path: '^web/src/app/score/[^/]+\\.ts$' },
    },
    {
      name: 'web-stores-draw-nothing',
      comment: 'A store or a service may be tested without a component.',
      severity: 'error',
      from: { path: '^web/src/app/(data/.*|.*-store)\\.ts$' },
      to: { path: '^web/src/app/.*-(panel|page|list|view|bar|lane|dialog|form|editor|ribbon)\\.ts$' },
    },
    ...orderRules('reading', 'core/src/reading', readingOrder),
  ],
  options: {
    doNotFollow: { path: 'node_modules|/dist/' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      extensions: ['.ts', '.js'],
      exportsFields: ['exports'],
      conditionNames: ['types', 'import', 'default'],
    },
  },
};
