/** The checks of the code itself: each one command, those that take longest first. */
export const checks = [
  { name: 'lint', command: 'npx', args: ['eslint', '.', '--max-warnings', '0'] },
  { name: 'format', command: 'npx', args: ['prettier', '--check', '--log-level', 'warn', '.'] },
  { name: 'types: page, with templates', command: 'npx', args: ['vue-tsc', '--noEmit', '-p', 'tsconfig.web.json'] },
  { name: 'types: server, demo, tests', command: 'npx', args: ['tsc', '-p', 'tsconfig.json'] },
  { name: 'types: core alone, without Node or DOM', command: 'npx', args: ['tsc', '-p', 'tsconfig.core.json'] },
  { name: 'types: tests of the page', command: 'npx', args: ['tsc', '-p', 'tests/page/tsconfig.json'] },
];
