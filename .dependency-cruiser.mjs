/**
 * Which folder of the page may import which (docs/ARCHITECTURE.md): what stands above is
 * never imported from below.
 */
const FLOORS = [
  ['api', 'ui', 'theme'],
  ['workers'],
  ['state'],
  ['workspace'],
  ['commands', 'pictures'],
  ['scene'],
  ['panels', 'shelf'],
];
const web = (folders) => `^apps/web/src/(${folders.join('|')})/`;
/** Folders that stand in an order of their own. */
const ROOMS = '^(packages/(core|kernel)|apps/server)/src/';
const TESTS = '\\.test\\.tsx?$|/testing/';

export default {
  forbidden: [
    {
      name: 'no-circular',
      severity: 'error',
      comment: 'Types too: what needs each other belongs into one file, or the shared part into a third.',
      from: {},
      to: { circular: true },
    },
    {
      name: 'no-circular-rooms',
      severity: 'error',
      comment: 'Folders that need each other are one: what both need belongs into a third.',
      scope: 'folder',
      from: { path: ROOMS },
      to: { circular: true },
    },
    ...FLOORS.slice(0, -1).map((floor, i) => ({
      name: `floor-${floor[0]}`,
      severity: 'error',
      comment: 'A lower floor of the page imports from a higher one.',
      from: { path: web(floor), pathNot: TESTS },
      to: { path: web(FLOORS.slice(i + 1).flat()) },
    })),
  ],
  options: {
    doNotFollow: { path: 'node_modules|/dist/' },
    // Tests need whatever they test with.
    exclude: { path: `node_modules|/dist/|${TESTS}` },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      conditionNames: ['@bathyscope/source', 'import', 'node'],
      extensions: ['.ts', '.tsx', '.js'],
    },
  },
};
