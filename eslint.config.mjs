/** Lint rules; the direction of dependencies is one of them. */
import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import typescript from 'typescript-eslint';

const { browser: inPages, node: onServers } = globals;

/** Folders of the core, from what all rely on to what relies on all: imports go up this list only. */
const CORE_ORDER = [
  'data',
  'kernels',
  'document',
  'contracts',
  'formats',
  'textures',
  'subdivision',
  'geometry',
  'materials',
  'lights',
  'render',
  'seams',
  'relief',
  'picture',
  'figures',
  'intake',
  'predict',
  'place',
  'diagnose',
];
/** The same inside the renderer, and in the server. */
const RENDER_ORDER = ['film', 'scene', 'compile', 'path', 'lines', 'frame'];
const SERVER_ORDER = ['db', 'apart', 'versions', 'render', 'budget', 'intake', 'trials', 'storage', 'shots', 'look', 'http']; // prettier-ignore

const forbid = (patterns, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ regex: patterns, message }] }],
});

/** Imports of folders that come later in an order. */
const laterThan = (order, folder) => {
  const later = order.slice(order.indexOf(folder) + 1);
  return later.length ? [`^(\\.\\./)+(${later.join('|')})/`] : [];
};
const OUTSIDE_CORE = '^node:|^(\\.\\./)+(server|web|cli|host|demo|tests)/';

const coreRules = CORE_ORDER.map((folder) => ({
  files: [`core/${folder}/**`],
  rules: forbid(
    [OUTSIDE_CORE, ...laterThan(CORE_ORDER, folder)].join('|'),
    `core/${folder} imports only folders above it in the order of the core, and no Node`,
  ),
}));
const renderRules = RENDER_ORDER.map((folder) => ({
  files: [`core/render/${folder}/**`],
  rules: forbid(
    [OUTSIDE_CORE, ...laterThan(CORE_ORDER, 'render'), ...laterThan(RENDER_ORDER, folder)].join('|'),
    `core/render/${folder} imports only folders above it in the order of the renderer`,
  ),
}));
const serverRules = SERVER_ORDER.map((folder) => ({
  files: [`server/${folder}/**`],
  rules: forbid(
    ['/(web|demo|cli|tests)/', ...laterThan(SERVER_ORDER, folder)].join('|'),
    `server/${folder} imports only folders above it in the order of the server, the core and the host`,
  ),
}));

export default typescript.config(
  {
    ignores: ['dist/', 'server/db/migrations/', '.dusting/', 'core/kernels/**', 'test-results/', 'playwright-report/'],
  },
  js.configs.recommended,
  ...typescript.configs.recommended,
  // On all files they would take a third of the time.
  ...vue.configs['flat/recommended'].map((config) => ({ files: ['web/**'], ...config })),
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: typescript.parser, extraFileExtensions: ['.vue'] } },
    rules: { 'vue/multi-word-component-names': 'off', 'vue/require-default-prop': 'off' },
  },
  { files: ['web/**'], languageOptions: { globals: inPages } },
  {
    files: ['scripts/**', '*.config.*', 'server/**', 'host/**', 'cli/**', 'demo/**', 'tests/**'],
    languageOptions: { globals: onServers },
  },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
    },
  },
  {
    // What is not waited for fails without a word: it is awaited, or marked with void and a reason to be.
    files: ['core/**/*.ts', 'server/**/*.ts', 'host/**/*.ts', 'cli/**/*.ts', 'demo/**/*.ts', 'web/**/*.ts'],
    languageOptions: {
      parserOptions: {
        project: ['./tsconfig.json', './tsconfig.core.json', './tsconfig.web.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
    },
  },
  // Tests break documents on purpose, against their types.
  { files: ['tests/**'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  ...coreRules,
  ...renderRules,
  {
    files: ['host/**'],
    rules: forbid('/(server|web|demo|cli|tests)/', 'what Node processes share imports the core alone'),
  },
  { files: ['server/**'], rules: forbid('/(web|demo|cli|tests)/', 'the server imports the core and the host alone') },
  ...serverRules,
  {
    files: ['cli/**'],
    rules: forbid('/(server|web|demo|tests)/', 'the shell commands import the core and the host alone'),
  },
  { files: ['web/**'], rules: forbid('/(server|demo|cli|host|tests)/', 'the page imports the core alone') },
  { files: ['demo/**'], rules: forbid('/(server|web|cli|host|tests)/', 'the demo imports the core alone') },
  prettier,
);
