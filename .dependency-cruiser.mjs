import { folders } from './packages/core/layers.mjs';

/**
 * Which way imports may go, type imports counted. docs/house.md is the map: core ← bench ← session ← web, core ← contract ←
 * server and session; in the core each folder only from those before it.
 */

const only = (from, allowed) => ({
  name: `${from}-imports`,
  severity: 'error',
  from: { path: `^packages/${from}/src` },
  to: { path: '^packages/', pathNot: `^packages/(${[from, ...allowed].join('|')})/` },
});

/** Folders of the interface that may not know others. */
const web = (from, to) => ({
  name: `web: ${from} knows no ${to}`,
  severity: 'error',
  from: { path: `^packages/web/src/(${from})/` },
  to: { path: `^packages/web/src/(${to})/` },
});

/** A folder of the core may not know the folders after it. */
const upwards = folders.map((folder, at) => ({
  name: `core-layers: ${folder}`,
  severity: 'error',
  from: { path: `^packages/core/src/${folder}/` },
  to: { path: '^packages/core/src/', pathNot: `^packages/core/src/(${folders.slice(0, at + 1).join('|')})/` },
}));

export default {
  forbidden: [
    ...upwards,
    {
      name: 'core-folder-without-a-layer',
      severity: 'error',
      from: { path: '^packages/core/src/', pathNot: `^packages/core/src/(${folders.join('|')})/` },
      to: {},
    },
    only('core', []),
    only('bench', ['core']),
    only('contract', ['core']),
    only('server', ['core', 'bench', 'contract']),
    only('session', ['core', 'bench', 'contract']),
    only('web', ['core', 'bench', 'contract', 'session']),
    // What is around a station knows none of them; whoever puts them together stands at the top (router, stationPages).
    web('app|job|bench|workbench|api', 'stations'),
    web('tools', 'stations|app'),
    web('ui', 'stations|app|tools|job|bench|workbench|api'),
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
      to: { circular: true },
    },
  ],
  options: {
    tsPreCompilationDeps: 'specify',
    tsConfig: { fileName: 'tsconfig.base.json' },
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'test/' },
  },
};
