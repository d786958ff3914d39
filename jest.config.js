/** Two projects: everything without an interface in plain Node, the interface in jest-expo's web preset (jsdom); both by SWC. */
const web = require('jest-expo/web/jest-preset');

/** A test runs inside a vm, where looking up a global costs more than the sum it is for. */
const sandboxInjectedGlobals = ['Math', 'Number', 'Float64Array', 'Float32Array'];

const swc = (parser) => [
  '@swc/jest',
  {
    jsc: { parser, target: 'es2022', transform: { react: { runtime: 'automatic' } } },
    module: { type: 'commonjs' },
  },
];

/** @type {import('jest').Config} */
module.exports = {
  // waits hang on events: how long one may take says only how busy a machine may be
  testTimeout: 60_000,
  projects: [
    {
      displayName: 'node',
      sandboxInjectedGlobals,
      testEnvironment: 'node',
      testMatch: ['<rootDir>/{src,server,cli,bench}/**/*.test.ts'],
      moduleNameMapper: { '^@/(.*)$': '<rootDir>/src/$1' },
      transformIgnorePatterns: [
        '/node_modules/(?!(culori|d3-[a-z]+|internmap|@react-native-async-storage|@zip\\.js)/)',
      ],
      transform: { '^.+\\.(m?js|ts)$': swc({ syntax: 'typescript' }) },
      setupFiles: ['<rootDir>/jest.setup.js'],
    },
    {
      displayName: 'ui',
      sandboxInjectedGlobals,
      preset: 'jest-expo/web',
      testMatch: ['<rootDir>/src/**/*.test.tsx'],
      // d3 and culori ship ES modules only
      transformIgnorePatterns: (web.transformIgnorePatterns ?? []).map((p) =>
        p.replace('(?!', '(?!d3-|internmap|culori|'),
      ),
      transform: {
        ...Object.fromEntries(Object.entries(web.transform).filter(([pattern]) => pattern !== '\\.[jt]sx?$')),
        '\\.ts$': swc({ syntax: 'typescript' }),
        '\\.tsx$': swc({ syntax: 'typescript', tsx: true }),
        '\\.(mjs|jsx?)$': swc({ syntax: 'ecmascript', jsx: true }),
      },
      moduleNameMapper: {
        '^react-native$': 'react-native-web',
        // jsdom has no workers: the heavy functions run in place
        '^@/workers/client$': '<rootDir>/src/workers/client.ts',
        // what comes by and by on the web is there at once
        '(.*)/sheets$': '$1/sheets.ts',
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
