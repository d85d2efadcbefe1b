/** The one-way imports of docs/architecture.md. A breach or a circle fails ./check. */
const CORE = [
  'units',
  'catalogue',
  'package',
  'prices',
  'measure',
  'identify',
  'labour',
  'diagnose',
  'fit',
  'worth',
  'quote',
  'bench',
  'ticket',
  'stock',
  'day',
  'order',
  'learn',
  'sheets',
  'case',
];

const layer = (name, from, forbidden) => ({
  name,
  severity: 'error',
  from: { path: from, pathNot: '\\.test\\.tsx?$' },
  to: { path: forbidden },
});

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'resolvable', severity: 'error', from: {}, to: { couldNotResolve: true } },
    ...CORE.map((folder, at) =>
      layer(
        `core-${folder}-imports-only-above`,
        `^src/core/${folder}/`,
        `^src/core/(${CORE.slice(at + 1)
          .concat('__none')
          .join('|')})/`,
      ),
    ),
    layer('core-is-pure', '^src/core/', '^src/(?!core/)'),
    {
      name: 'core-packages',
      severity: 'error',
      comment: 'The core knows no interface, store or server package.',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: { path: 'node_modules/(react|react-dom|next|dexie|dexie-react-hooks|comlink|radix-ui|chart\\.js)/' },
    },
    {
      name: 'highs-in-one-file',
      severity: 'error',
      from: { pathNot: '^src/core/order/plan/highs\\.ts$' },
      to: { path: 'node_modules/highs/' },
    },
    layer('words-over-core', '^src/words/', '^src/(?!words/|core/)'),
    layer('ui-knows-nothing', '^src/ui/', '^src/(?!ui/)'),
    layer('store-over-core', '^src/store/', '^src/(?!store/|core/)'),
    layer('workers-over-store', '^src/workers/', '^src/(?!workers/|store/|core/)'),
    layer('suppliers-over-core', '^src/suppliers/', '^src/(?!suppliers/|core/)'),
    layer('floor', '^src/floor/', '^src/(app|sheet|stations|suppliers)/'),
    layer('stations-see-no-sheet', '^src/stations/', '^src/(app|sheet|floor|suppliers)/'),
    ...['plate', 'findings', 'part', 'worth', 'order', 'bench', 'proof'].map((station) =>
      layer(`station-${station}-alone`, `^src/stations/${station}/`, `^src/stations/(?!${station}/|shared/)`),
    ),
    layer('sheet', '^src/sheet/', '^src/(app|suppliers)/'),
    layer('app-api-only-suppliers', '^src/app/api/', '^src/(sheet|floor|stations|ui|words|store|workers)/'),
    layer('pages-no-suppliers', '^src/app/(?!api/)', '^src/suppliers/'),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(\\.next|public)/' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'browser', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.cjs', '.json'],
    },
  },
};
