/** The checks of the code itself: each one command. */
export const checks = [
  { name: 'lint', command: 'npx', args: ['eslint', '.', '--max-warnings', '0'] },
  { name: 'types: core alone, without Node or DOM', command: 'npx', args: ['tsc', '-p', 'tsconfig.core.json'] },
  { name: 'types: server, demo, tests', command: 'npx', args: ['tsc', '-p', 'tsconfig.json'] },
  { name: 'types: page tests', command: 'npx', args: ['tsc', '-p', 'tests/page/tsconfig.json'] },
  { name: 'types: interface tests', command: 'npx', args: ['tsc', '-p', 'tests/e2e/tsconfig.json'] },
  { name: 'types: page, with templates', command: 'npx', args: ['vue-tsc', '--noEmit', '-p', 'tsconfig.web.json'] },
  { name: 'format', command: 'npx', args: ['prettier', '--check', '--log-level', 'warn', '.'] },
];
