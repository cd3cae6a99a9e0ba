/** Which way imports may go: core ← bench ← server, core and bench ← web. Nothing goes back. */
const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: 'error',
  from: { path: `^packages/${from}/src` },
  to: { path: '^packages/', pathNot: `^packages/(${[from, ...allowed].join('|')})/` },
});

module.exports = {
  forbidden: [
    only('core', []),
    only('bench', ['core']),
    only('server', ['core', 'bench']),
    only('web', ['core', 'bench']),
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^packages/core/src' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'bench-runs-anywhere',
      severity: 'error',
      from: { path: '^packages/bench/src' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
  ],
  options: {
    tsPreCompilationDeps: 'specify',
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'test/' },
  },
};
