/**
 * `npm run imports`: no import cycles, types included, and the layers of every part. A folder may import from itself and from those
 * named before it in its list; what stands on one line in brackets does not know of one another.
 */
const CORE = [
  ['time', 'kernel'],
  'plan',
  ['naming', 'diagram', 'network', 'wire'],
  'schedule',
  'words',
  'drawing',
  'cost',
  'progress',
  ['scenario', 'forecast', 'crash'],
  'chain',
  'review',
  ['revisions', 'update', 'alternatives'],
  'report',
  'share',
  'formats',
]
const WEB = [
  ['theme', 'api', 'workers'],
  'stores',
  ['composables', 'commands', 'saving'],
  'controls',
  'panes/rows',
  ['panes/ground', 'panes/lens', 'panes/lists'],
  'panes/map',
  'frame',
  ['stages/[^/]+'],
]
const SERVER = ['threads', 'db', 'files', 'jobs', 'analysis', 'http']

/** For each folder: what stands beside or after it may not be imported. */
const layers = (root, order) =>
  order
    .flatMap((entry, at) =>
      [entry].flat().map((folder) => {
        const beside = [entry].flat().filter((other) => other !== folder)
        const after = order.slice(at + 1).flat()
        return {
          name: `${root}/${folder.replace('[^/]+', '*')}`,
          severity: 'error',
          comment: `${root}/src/${folder} may import only from what stands before it`,
          from: { path: `^${root}/src/${folder}/`, pathNot: '\\.test\\.ts$|/testing/' },
          to: { path: [...beside, ...after].map((other) => `^${root}/src/${other}/`) },
        }
      }),
    )
    .filter(({ to }) => to.path.length > 0)

export default {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    ...layers('core', CORE),
    ...layers('web', WEB),
    ...layers('server', SERVER),
    {
      name: 'stages-apart',
      severity: 'error',
      comment: 'a stage does not import from another; what they share is a pane, a control or the frame’s',
      from: { path: '^web/src/stages/([^/]+)/' },
      to: { path: '^web/src/stages/', pathNot: '^web/src/stages/$1/' },
    },
    {
      name: 'core-alone',
      severity: 'error',
      comment: 'core is plain TypeScript: no Node, no framework',
      from: { path: '^core/src/', pathNot: '\\.test\\.ts$|/testing/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'through-the-front-door',
      severity: 'error',
      comment: 'other packages import @geodrome/core by its name, never a file of it',
      from: { pathNot: '^core/' },
      to: { path: '^core/src/', pathNot: '^core/src/index\\.ts$' },
    },
    {
      name: 'one-way',
      severity: 'error',
      comment: 'core knows of nobody, print of core; server, cli and web do not know of one another',
      from: { path: '^(core|print|cli|server|web)/' },
      to: { path: '^(cli|server|web|e2e|bench|scripts)/', pathNot: '^$1/' },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)dist/' },
    enhancedResolveOptions: {
      conditionNames: ['development', 'import', 'node', 'default'],
      exportsFields: ['exports'],
      extensions: ['.ts', '.vue', '.mjs', '.js'],
    },
  },
}
