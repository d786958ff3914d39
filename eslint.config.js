const { defineConfig, globalIgnores } = require('eslint/config');
const expo = require('eslint-config-expo/flat');
const prettier = require('eslint-config-prettier/flat');
const boundaries = require('eslint-plugin-boundaries');

/** The rooms, top to bottom. A room may look only into the rooms named here (docs/architecture.md). */
const rooms = {
  app: ['screens', 'state', 'ui'],
  screens: ['screens', 'pieces', 'ui', 'state', 'wire', 'core'],
  pieces: ['pieces', 'ui', 'core'],
  ui: ['ui'],
  state: ['state', 'store', 'workers', 'heads', 'wire', 'core', 'demo'],
  store: ['store', 'core'],
  workers: ['workers', 'core'],
  demo: ['core'],
  // simulated lamps share nothing with the app but the wire
  heads: ['heads', 'wire'],
  wire: ['wire'],
  server: ['server', 'heads', 'wire'],
  cli: ['cli', 'core'],
  core: ['core'],
};
/** Inside core: a floor may use the floors before it. */
const floors = [
  ['shape'],
  ['spectrum'],
  ['colour', 'optics', 'feeding', 'meter', 'evidence'],
  ['coral'],
  ['mix', 'day'],
  ['controller'],
  ['library'],
  ['easing'],
  ['record'],
  ['case'],
  ['learn'],
  ['refugium'],
  ['portrait'],
  ['formats'],
];

/** What eslint-config-expo asks of components and hooks. */
const ofReact = [...new Set(expo.flatMap((c) => Object.keys(c.rules ?? {})))].filter((rule) =>
  /^react/.test(rule),
);

const ofCompiler = ofReact.filter((rule) => /^react-hooks\/(?!rules-of-hooks|exhaustive-deps)/.test(rule));

/** The oracle checks the solver: it knows nothing of it, nor the solver of it; only the check itself knows both. */
const oracle = {
  from: { element: { type: 'core', captured: { floor: 'oracle' } } },
  allow: { to: { element: { type: 'core', captured: { floor: 'oracle' } } } },
};

const check = {
  from: { element: { type: 'core', captured: { floor: 'check' } } },
  allow: {
    to: { element: { type: 'core', captured: { floor: [...floors.flat(), 'oracle', 'check'] } } },
  },
};

const coreRules = floors.flatMap((floor, level) =>
  floor.map((name) => ({
    from: { element: { type: 'core', captured: { floor: name } } },
    allow: {
      to: { element: { type: 'core', captured: { floor: [...floors.slice(0, level).flat(), name] } } },
    },
  })),
);

module.exports = defineConfig([
  globalIgnores(['dist/**', '.expo/**', 'coverage/**', 'test-results/**', 'expo-env.d.ts']),
  expo,
  prettier,
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'import/no-named-as-default-member': 'off',
      // the type checker says so already, and in a fraction of the time
      'import/namespace': 'off',
      'import/no-unresolved': 'off',
      '@typescript-eslint/no-redeclare': 'off',
      // These two serve the React Compiler, which is not used; gesture callbacks read refs after render.
      'react-hooks/refs': 'off',
      'react-hooks/preserve-manual-memoization': 'off',
    },
  },
  // rooms without components and hooks
  {
    files: ['src/{core,store,workers,wire,heads,demo}/**/*.ts', '{server,cli,bench,e2e,scripts}/**'],
    rules: Object.fromEntries(ofReact.map((rule) => [rule, 'off'])),
  },
  {
    files: ['src/**/*.{ts,tsx}', 'server/**/*.ts', 'cli/**/*.ts'],
    ignores: ['**/*.test.{ts,tsx}', '**/test/**', '**/fixtures/**'],
    plugins: { boundaries },
    settings: {
      'boundaries/elements': [
        { type: 'core', pattern: 'src/core/*', capture: ['floor'] },
        ...['app', 'screens', 'pieces', 'ui', 'state', 'store', 'workers', 'heads', 'wire', 'demo'].map(
          (type) => ({
            type,
            pattern: `src/${type}`,
          }),
        ),
        { type: 'server', pattern: 'server' },
        { type: 'cli', pattern: 'cli' },
      ],
      'import/resolver': { typescript: { project: './tsconfig.json' } },
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            ...Object.entries(rooms)
              .filter(([from]) => from !== 'core')
              .map(([from, to]) => ({
                from: { element: { type: from } },
                allow: { to: { element: { type: to } } },
              })),
            ...coreRules,
            oracle,
            check,
          ],
        },
      ],
    },
  },
  // The core knows no interface, storage, network or clock.
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: ['react', 'react-*', '@react-native*', 'expo*', '@tanstack/*', 'comlink', 'node:*'] },
      ],
      'no-restricted-globals': ['error', 'fetch', 'window', 'document', 'localStorage', 'navigator'],
      'no-restricted-syntax': [
        'error',
        {
          selector: "MemberExpression[object.name='Date'][property.name='now']",
          message: 'The core has no clock.',
        },
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'The core has no clock.',
        },
        { selector: "MemberExpression[object.name='Math'][property.name='random']", message: 'Pass a seed.' },
      ],
    },
  },
  // What is too much and too little is worded in one place.
  {
    files: ['src/{screens,pieces,state}/**/*.{ts,tsx}'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[value', 'TemplateElement[value.raw', 'JSXText[value'].map((of) => ({
          selector: `${of}=/too (much|little) (at|for) [^o]|^ what .*used to/]`,
          message: 'A verdict is worded by core/case/verdict.',
        })),
      ],
    },
  },
  {
    files: ['**/*.test.{ts,tsx}', 'jest.setup.js'],
    // what of these reads a component as the compiler would costs more than all other rules; tests hold next to no components
    rules: Object.fromEntries(ofCompiler.map((rule) => [rule, 'off'])),
    languageOptions: {
      globals: {
        jest: 'readonly',
        test: 'readonly',
        expect: 'readonly',
        describe: 'readonly',
        it: 'readonly',
      },
    },
  },
]);
