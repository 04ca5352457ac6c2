// What each folder may import besides itself (regular expressions under src/). Everything else is an error.
const allowed = {
  core: [],
  hosts: ['core/'],
  session: ['core/', 'hosts/protocol/', 'hosts/browser/launcher\\.', 'server/contract/'],
  server: ['core/', 'hosts/'],
  'server/contract': ['core/'],
  cli: ['core/', 'hosts/', 'server/(db|access)/'],
  ui: ['core/', 'hosts/protocol/', 'session/', 'server/contract/'],
  app: ['core/', 'hosts/', 'session/', 'server/', 'ui/'],
  standalone: ['core/', 'hosts/', 'ui/'],
}
const corePackages = ['joi', 'papaparse', 'fflate'] // the only packages the core may use
module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    ...Object.entries(allowed).map(([folder, others]) => ({
      name: `layer-${folder.replace('/', '-')}`,
      severity: 'error',
      // Tests join what belongs to each other: a session with its host.
      from: { path: `^src/${folder}/`, pathNot: '^src/session/(.*\\.test\\.ts$|testing/)' },
      to: { path: '^src/', pathNot: [`^src/${folder}/`, ...others.map((o) => `^src/${o}`)] },
    })),
    {
      name: 'core-packages',
      severity: 'error',
      from: { path: '^src/core/', pathNot: '\\.test\\.ts$' },
      to: {
        dependencyTypes: ['npm', 'npm-dev', 'npm-optional', 'npm-peer', 'npm-no-pkg', 'npm-unknown', 'core'],
        pathNot: corePackages.map((p) => `node_modules/(@types/)?${p}/`),
      },
    },
    {
      name: 'not-to-test',
      severity: 'error',
      from: { pathNot: '\\.test\\.tsx?$' },
      to: { path: '\\.test\\.tsx?$' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    doNotFollow: { path: 'node_modules' },
  },
}
