/** Lint rules; the direction of dependencies is one of them. */
import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import typescript from 'typescript-eslint';

const { browser: inPages, node: onServers } = globals;

/** Folders of the core, from what all speak to what speaks to all: imports go up this list only. */
const CORE_ORDER = [
  'data',
  'kernels',
  'document',
  'contracts',
  'formats',
  'textures',
  'geometry',
  'materials',
  'lights',
  'render',
  'picture',
  'intake',
  'predict',
  'diagnose',
];

const forbid = (patterns, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ regex: patterns, message }] }],
});

const coreRules = CORE_ORDER.map((folder, i) => {
  const later = CORE_ORDER.slice(i + 1);
  const outside = '^node:|^(\\.\\./)+(server|web|cli|host|demo|tests)/';
  const back = later.length ? `|^(\\.\\./)+(${later.join('|')})/` : '';
  return {
    files: [`core/${folder}/**`],
    rules: forbid(outside + back, `core/${folder} imports only folders above it in the order of the core, and no Node`),
  };
});

export default typescript.config(
  {
    ignores: [
      'dist/',
      'server/db/migrations/',
      '.dusting/',
      'core/kernels/*/assembly.ts',
      'test-results/',
      'playwright-report/',
    ],
  },
  js.configs.recommended,
  ...typescript.configs.recommended,
  ...vue.configs['flat/recommended'],
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
  // Tests break documents on purpose, against their types.
  { files: ['tests/**'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
  { files: ['**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  ...coreRules,
  {
    files: ['host/**'],
    rules: forbid('/(server|web|demo|cli|tests)/', 'what Node processes share imports the core alone'),
  },
  { files: ['server/**'], rules: forbid('/(web|demo|cli|tests)/', 'the server imports the core and the host alone') },
  {
    files: ['cli/**'],
    rules: forbid('/(server|web|demo|tests)/', 'the shell commands import the core and the host alone'),
  },
  { files: ['web/**'], rules: forbid('/(server|demo|cli|host|tests)/', 'the page imports the core alone') },
  { files: ['demo/**'], rules: forbid('/(server|web|cli|host|tests)/', 'the demo imports the core alone') },
  prettier,
);
