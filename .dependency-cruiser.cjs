// Arrows only point down: web, cli, server -> contract -> core; inside core, only to folders before.
const order = [
  'base',
  'music',
  'score',
  'abc',
  'sheet',
  'reading',
  'cues',
  'climb',
  'readiness',
  'takes',
  'mock',
  'care',
];
const coreRules = order.slice(0, -1).map((folder, index) => ({
  name: `core-${folder}-looks-back-only`,
  comment: 'A folder of core may import only folders earlier in the order of the work.',
  severity: 'error',
  from: { path: `^core/src/${folder}/` },
  to: { path: `^core/src/(${order.slice(index + 1).join('|')})/` },
}));
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
    ...coreRules,
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
