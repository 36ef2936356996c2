/** Imports point one way: see docs/architecture.md, "Who may import whom". */
const order = [
  'quantity',
  'logic',
  'board',
  'device',
  'fault',
  'circuit',
  'instrument',
  'diagnosis',
  'block',
  'plan',
];
/** A core folder may import only folders before it in the order; device and circuit lie beside fault. */
const coreRules = order.map((folder, i) => ({
  name: `core-${folder}-imports-only-earlier`,
  severity: 'error',
  comment: `core/src/${folder} is earlier in the order than what it imports`,
  from: { path: `^core/src/${folder}/`, pathNot: '\\.test\\.ts$' },
  to: {
    path: `^core/src/(${order
      .slice(i + 1)
      .concat(['part', 'survey', 'bench', 'practice'])
      .join('|')})/`,
  },
}));

module.exports = {
  forbidden: [
    ...coreRules,
    {
      name: 'core-part-below-bench',
      severity: 'error',
      from: { path: '^core/src/part/' },
      to: { path: '^core/src/(bench|plan|diagnosis)/' },
    },
    {
      name: 'core-scpi-is-a-language',
      severity: 'error',
      comment: 'what an instrument is told knows nothing of boards',
      from: { path: '^core/src/scpi/' },
      to: { path: '^core/src/(?!scpi/)' },
    },
    {
      name: 'core-without-the-simulated-bench',
      severity: 'error',
      from: { path: '^core/src/(?!simulated/|training/)', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/simulated/' },
    },
    {
      name: 'core-knows-nobody',
      severity: 'error',
      from: { path: '^core/src/' },
      to: { path: '^(data|cli|web)/' },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/src/', pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-depends-on-little',
      severity: 'error',
      from: { path: '^core/src/', pathNot: '\\.test\\.ts$' },
      to: { path: 'node_modules', pathNot: 'node_modules/(zod|papaparse|@types)/' },
    },
    {
      name: 'core-folders-through-their-entry',
      severity: 'error',
      from: { path: '^core/src/([^/]+)/' },
      to: { path: '^core/src/([^/]+)/.+', pathNot: '^core/src/($1/|[^/]+/index\\.ts$)' },
    },
    {
      name: 'data-knows-core-only',
      severity: 'error',
      from: { path: '^data/' },
      to: { path: '^(cli|web)/' },
    },
    { name: 'cli-not-web', severity: 'error', from: { path: '^cli/' }, to: { path: '^web/' } },
    {
      name: 'stages-apart',
      severity: 'error',
      from: { path: '^web/src/stage/([^/]+)/' },
      to: { path: '^web/src/stage/', pathNot: '^web/src/stage/$1/' },
    },
    {
      name: 'ui-knows-no-trade',
      severity: 'error',
      from: { path: '^web/src/ui/' },
      to: { path: '^(core|data)/|^web/src/(stage|case|docket|boards|server|workers)/' },
    },
    {
      name: 'browser-takes-only-types-from-server',
      severity: 'error',
      from: { path: '^web/src/(stage|case|docket|boards|workers)/' },
      to: { path: '^web/src/server/', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'only-seed-reads-demo',
      severity: 'error',
      from: { path: '^web/src/', pathNot: '(^web/src/server/db/seed\\.ts|\\.test\\.tsx?)$' },
      to: { path: '^data/demo/' },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: '\\.astro$',
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.json'],
    },
  },
};
