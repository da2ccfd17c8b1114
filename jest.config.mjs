/** Unit tests of every workspace, in CommonJS through swc; end-to-end tests are Playwright's. */
const swc = (extra = {}) => [
  '@swc/jest',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx: true, decorators: true },
      transform: { legacyDecorator: true, decoratorMetadata: true, react: { runtime: 'automatic' } },
      target: 'es2023',
      keepClassNames: true,
      ...extra,
    },
    module: { type: 'commonjs' },
  },
];

const project = (name, extra = {}) => ({
  displayName: name,
  rootDir: `<rootDir>/${name}`.replace('<rootDir>', import.meta.dirname),
  testMatch: ['<rootDir>/src/**/*.test.ts', '<rootDir>/src/**/*.test.tsx'],
  transform: { '^.+\\.tsx?$': swc(), '^.+\\.m?js$': swc() },
  // Packages that come as ES modules only are compiled like our own.
  transformIgnorePatterns: [
    '/node_modules/(?!(d3-contour|d3-array|internmap|@dnd-kit|mpg123-decoder|ogg-opus-decoder|opus-decoder|@wasm-audio-decoders|codec-parser|@eshaz|simple-yenc|p-limit|potpack|srt-parser-2|yocto-queue)/)',
  ],
  moduleNameMapper: {
    '^@zest-jaw/core$': `${import.meta.dirname}/core/src/index.ts`,
    '^@zest-jaw/engine/documents$': `${import.meta.dirname}/engine/src/documents/faultsOfShape.ts`,
    '^@zest-jaw/engine/hand-off$': `${import.meta.dirname}/engine/src/handOff/index.ts`,
    '^@zest-jaw/engine$': `${import.meta.dirname}/engine/src/index.ts`,
    '^(\\.{1,2}/.*)\\.js$': '$1',
  },
  setupFiles: [`${import.meta.dirname}/scripts/jestSetup.cjs`],
  // Looked up through the sandbox each time they are named, these make inner loops ten times slower.
  sandboxInjectedGlobals: ['Math', 'Float64Array', 'Float32Array', 'Int32Array', 'Uint8Array'],
  ...extra,
});

export default {
  // As many as a small machine has cores: nothing else runs beside the tests.
  maxWorkers: 2,
  projects: [
    project('core'),
    project('engine', { testEnvironment: 'node' }),
    // Its workers are the built ones: a thread needs plain JavaScript.
    project('server', {
      testEnvironment: 'node',
      setupFiles: [`${import.meta.dirname}/scripts/jestSetup.cjs`, `${import.meta.dirname}/scripts/jestWorkers.cjs`],
    }),
    project('cli', { testEnvironment: 'node' }),
    project('web', {
      testEnvironment: 'jsdom',
      setupFiles: [`${import.meta.dirname}/scripts/jestSetup.cjs`, `${import.meta.dirname}/scripts/jestWeb.cjs`],
    }),
  ],
};
