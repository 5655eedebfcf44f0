// Floors and rooms: which way imports may run, type imports counted. docs/architecture.md draws them.

/** Floors of the core, lowest first; a file imports from its own floor and those below. */
const FLOORS = [
  ['tools', '(quantity|statistics|uncertainty|signal|geometry|expression|formats|kernels)/|(error|warning)[.]ts$'],
  ['method ground', 'method/'],
  ['calculations', 'calc/'],
  ['what surrounds a method', '(plan|rig|judge|compare|register|advise|targets|images|own)/'],
  ['family contract', 'family/'],
  ['families', 'families/'],
  ['registry', 'registry/'],
]
const TEST = '[.](test|spec)[.]ts$|^core/src/fixtures/|^server/test/|^app/test/|^e2e/'

const above = i =>
  [...FLOORS.slice(i + 1).map(([, path]) => path), 'index[.]ts$'].map(path => `^core/src/(${path})`).join('|')
const floors = FLOORS.map(([name, path], i) => ({
  name: `core floor ${i}: ${name}`,
  comment: 'Imports of the core run downward only.',
  severity: 'error',
  from: { path: `^core/src/(${path})`, pathNot: TEST },
  to: { path: above(i) },
}))

const fence = (name, comment, from, to) => ({ name, comment, severity: 'error', from, to })

export default {
  forbidden: [
    ...floors,
    fence('no circle', 'Split what two files need from one another into a third.', {}, { circular: true }),
    fence(
      'a family stands alone',
      'What two kinds of test share belongs to a lower floor.',
      { path: '^core/src/families/([^/]+)/', pathNot: TEST },
      { path: '^core/src/families/', pathNot: '^core/src/families/$1/' },
    ),
    fence(
      'core is pure',
      'The core knows neither interface nor server.',
      { path: '^core/src', pathNot: TEST },
      { path: '^(app|server|cli|demo|e2e)/', dependencyTypesNot: ['npm'] },
    ),
    fence(
      'SQL lives in server/db',
      'Ask a function of server/db for it.',
      { path: '^server/', pathNot: `^server/(db|test)/|${TEST}` },
      { path: 'node_modules/(drizzle-orm|@libsql)/' },
    ),
    fence(
      'no server in the interface',
      'The interface speaks to the server over HTTP; app/types/api.ts holds the types of its answers.',
      { path: '^app/', pathNot: '^app/types/' },
      { path: '^server/|node_modules/(drizzle-orm|@libsql)/' },
    ),
    fence('no interface in the server', 'The server does not draw.', { path: '^(server|cli)/' }, { path: '^app/' }),
    fence(
      'resolved',
      'An import that leads nowhere is not fenced.',
      {},
      { couldNotResolve: true, pathNot: '^(#|h3$)' },
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)([.]nuxt|[.]output|dist)/' },
    tsPreCompilationDeps: true,
    webpackConfig: { fileName: 'build-tools/cruise-resolve.mjs' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default', 'types'],
      extensions: ['.ts', '.vue', '.mjs', '.js', '.json'],
    },
  },
}
