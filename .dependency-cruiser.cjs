/** Imports run down only: web and server → contract → core. */
const no = (name, comment, from, to) => ({ name, comment, severity: 'error', from, to })
module.exports = {
  forbidden: [
    no(
      'core-stands-alone',
      'core imports nothing of the rest',
      { path: '^core/' },
      { path: '^(contract|server|web|demo|cli|test|scripts)/' },
    ),
    no('core-has-no-io', 'core does no I/O', { path: '^core/' }, { dependencyTypes: ['core'] }),
    no(
      'contract-above-core',
      'contract sees core only',
      { path: '^contract/' },
      { path: '^(server|web|demo|cli|test)/' },
    ),
    no('server-not-web', 'server never imports web', { path: '^server/' }, { path: '^(web|cli|test)/' }),
    no('web-not-server', 'web never imports server', { path: '^web/' }, { path: '^(server|demo|cli|test)/' }),
    no(
      'stations-apart',
      'a station can be deleted with its folder',
      { path: '^web/stations/([^/]+)/' },
      { path: '^web/stations/', pathNot: '^web/stations/$1/' },
    ),
    no(
      'stations-on-top',
      'what stations are made of knows none of them',
      { path: '^web/(parts|data|strip|charts|flown|pictures|workers)/' },
      { path: '^web/(stations|shell)/' },
    ),
    no(
      'core-is-bare',
      'core draws nothing and stores nothing',
      { path: '^core/' },
      { path: 'node_modules/(react|react-dom|react-router|swr|pg|drizzle-orm|koa)/' },
    ),
    no(
      'drizzle-in-the-store',
      'the database is spoken to in the store alone',
      { path: '^server/', pathNot: '^server/store/' },
      { path: 'node_modules/drizzle-orm/' },
    ),
    {
      ...no(
        'no-folder-circles',
        'folders run one way too: judge on plan on rating on throw, work and crew and custody on the store, workers on data',
        { path: '^(core|server|web)/[^/]+$' },
        { circular: true },
      ),
      scope: 'folder',
    },
    no('no-test-in-product', 'the product does not import tests', { pathNot: '^test/' }, { path: '^test/' }),
    no('no-circles', 'no import circles', {}, { circular: true }),
    no('no-orphan-package', 'only declared packages', {}, { dependencyTypes: ['npm-no-pkg', 'npm-unknown'] }),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      extensions: ['.ts', '.tsx', '.js', '.mjs', '.css'],
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
    },
  },
}
