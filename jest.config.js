/** Two projects: everything without an interface in plain Node (SWC), the interface in jest-expo's web preset (jsdom). */
const web = require('jest-expo/web/jest-preset');

/** A test runs inside a vm, where looking up a global costs more than the sum it is for. */
const sandboxInjectedGlobals = ['Math', 'Number', 'Float64Array', 'Float32Array'];

/** @type {import('jest').Config} */
module.exports = {
  projects: [
    {
      displayName: 'node',
      sandboxInjectedGlobals,
      testEnvironment: 'node',
      testMatch: ['<rootDir>/{src,server,cli,bench}/**/*.test.ts'],
      moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
      transformIgnorePatterns: [
        '/node_modules/(?!(culori|d3-[a-z]+|internmap|@react-native-async-storage)/)',
      ],
      transform: {
        '^.+\\.(m?js|ts)$': [
          '@swc/jest',
          { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
        ],
      },
      setupFiles: ['<rootDir>/jest.setup.js'],
    },
    {
      displayName: 'ui',
      sandboxInjectedGlobals,
      preset: 'jest-expo/web',
      testMatch: ['<rootDir>/src/**/*.test.tsx'],
      // d3 ships ES modules only
      transformIgnorePatterns: (web.transformIgnorePatterns ?? []).map((p) =>
        p.replace('(?!', '(?!d3-|internmap|'),
      ),
      // The preset's babel-jest needs a Babel config; given inline so that the project needs no babel.config.js.
      transform: {
        ...Object.fromEntries(Object.entries(web.transform).filter(([pattern]) => pattern !== '\\.[jt]sx?$')),
        '\\.(mjs|[jt]sx?)$': [
          'babel-jest',
          {
            caller: { name: 'metro', bundler: 'metro', platform: 'web' },
            presets: ['babel-preset-expo'],
            configFile: false,
            babelrc: false,
          },
        ],
      },
      moduleNameMapper: {
        // jsdom has no workers: the heavy functions run in place
        '^@/workers/client$': '<rootDir>/src/workers/client.ts',
        // nor a store of its own: AsyncStorage's stand-in is written to as it is
        '^@/store/transact$': '<rootDir>/src/store/transact.ts',
        '^@/(.*)$': '<rootDir>/src/$1',
        '\\.woff2$': '<rootDir>/jest.setup.js',
        // lucide's per-icon entry points are .mjs, which jest-expo does not transform
        '^lucide-react-native/icons/(.*)$': '<rootDir>/node_modules/lucide-react-native/dist/cjs/icons/$1.js',
      },
      setupFiles: ['<rootDir>/jest.setup.js'],
    },
  ],
};
