// Which folder may import which: the table in DESIGN, "How data flows". Anything else is an error.
const may = {
  core: [],
  language: ['core'],
  page: ['core', 'language'],
  draw: ['core'],
  engine: ['core'],
  props: ['core'],
  keep: ['core', 'props'],
  bundle: ['core', 'props', 'keep'],
  setup: ['core', 'props', 'bundle'],
  coverage: ['core', 'bundle'],
  work: ['core', 'engine', 'bundle', 'coverage'],
  store: ['core'],
  baselines: ['core', 'store'],
  service: ['core', 'work', 'baselines', 'store', 'coverage'],
  client: ['core'],
  editor: ['client', 'core'],
  publish: ['client', 'core'],
  cli: ['client', 'core', 'setup', 'editor', 'publish'],
  console: ['client', 'core'],
};

/** Libraries that compute and nothing else: values in, values out. */
const pure = '@csstools/css-(tokenizer|parser-algorithms|color-parser)|fastest-levenshtein|marked';

/** What a folder imports beyond its row of the table. */
const directions = Object.entries(may).map(([folder, others]) => ({
  name: `${folder}-imports-${others.length === 0 ? 'only-itself' : others.join('-')}`,
  severity: 'error',
  from: { path: `^src/${folder}/`, pathNot: '^src/cli/serve\\.ts$' },
  to: { path: '^src/', pathNot: `^src/(${[folder, ...others].join('|')})/` },
}));

module.exports = {
  forbidden: [
    ...directions,
    {
      name: 'serve-starts-the-service',
      severity: 'error',
      from: { path: '^src/cli/serve\\.ts$' },
      to: { path: '^src/', pathNot: '^src/(cli|client|core|service)/' },
    },
    {
      name: 'core-is-values-only',
      severity: 'error',
      from: { path: '^src/core/' },
      to: { dependencyTypes: ['core', 'npm', 'npm-dev'], pathNot: pure },
    },
    {
      name: 'page-runs-in-a-browser',
      severity: 'error',
      from: { path: '^src/(language|page|draw|console)/', pathNot: '/vite\\.config\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'demo-uses-the-public-package',
      severity: 'error',
      from: { path: '^demo/' },
      to: { path: '^(src|dist|bench|test)/' },
    },
    {
      name: 'nothing-unresolved',
      severity: 'error',
      from: { path: '^src/' },
      // A project brings its own framework.
      to: { couldNotResolve: true, pathNot: '\\.css$|^(vue|svelte|@angular)(/|$)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(dist|node_modules/\\.)' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'node', 'default'],
      extensions: ['.ts', '.tsx', '.js', '.json'],
    },
  },
};
