/** Jest compiles with SWC to CommonJS, one project a package; packages are read from their sources. */
const swc = [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx: true, decorators: true },
      transform: {
        legacyDecorator: true,
        decoratorMetadata: true,
        useDefineForClassFields: false,
        react: { runtime: 'automatic' },
      },
      target: 'es2022',
    },
    module: { type: 'commonjs' },
  },
];

const project = (name, folder, more = {}) => ({
  displayName: name,
  rootDir: import.meta.dirname,
  testMatch: [`<rootDir>/${folder}/**/*.test.ts`, `<rootDir>/${folder}/**/*.test.tsx`],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  modulePathIgnorePatterns: ['/dist/', '/\\.data/'],
  transform: { '\\.[cm]?[jt]sx?$': swc },
  transformIgnorePatterns: [
    '/node_modules/(?!(three|three-mesh-bvh|earcut|@bitbybit-dev|fast-check|pure-rand|lucide-react|sonner|manifold-3d|lru-cache)/)',
  ],
  testEnvironment: 'node',
  testEnvironmentOptions: { customExportConditions: ['@bathyscope/source', 'node', 'node-addons'] },
  setupFiles: ['<rootDir>/scripts/property-seed.ts'],
  ...more,
  // Its CommonJS build says at every start that it will go.
  moduleNameMapper: {
    '^three$': '<rootDir>/node_modules/three/build/three.module.js',
    ...more.moduleNameMapper,
  },
});

export default {
  // Property tests and kernel calls take their time on a shared machine.
  testTimeout: 120_000,
  projects: [
    project('core', 'packages/core', {
      moduleNameMapper: { '^manifold-3d$': '<rootDir>/node_modules/manifold-3d/manifold.js' },
    }),
    project('contracts', 'packages/contracts'),
    project('kernel', 'packages/kernel'),
    // Jest's transforms do not reach into threads: those run as built (bin/test builds first).
    project('server', 'apps/server', {
      moduleNameMapper: { '^\\./worker-url\\.ts$': '<rootDir>/apps/server/src/testing/built-worker-url.ts' },
    }),
    // Not among the unit tests: whole instances of the application, whose processes are killed.
    // The pages' own code runs in some of them.
    project('reliability', 'reliability', {
      setupFiles: ['<rootDir>/apps/web/src/testing/browser-globals.ts'],
    }),
    project('web', 'apps/web', {
      setupFiles: ['<rootDir>/scripts/property-seed.ts', '<rootDir>/apps/web/src/testing/browser-globals.ts'],
    }),
  ],
};
