#!/usr/bin/env node
/**
 * `npm test`: everything the tests need, then all of them. `npm test -- lint unit api e2e` runs some.
 * The last line is `N passed, N failed`.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import process from 'node:process';
import { temporaryCluster } from './lib/cluster.mjs';
import { buildKernels } from './lib/kernels.mjs';
import {
  needChromium,
  needExrTools,
  needNode,
  needPackages,
  needPostgres,
  needProxy,
  needUnzip,
  root,
} from './lib/machine.mjs';
import { run, say } from './lib/say.mjs';

const ALL = ['lint', 'unit', 'api', 'e2e'];
const wanted = process.argv.slice(2).filter((a) => ALL.includes(a));
const suites = wanted.length ? wanted : ALL;
const total = { passed: 0, failed: 0 };

/** Runs a command with the terminal as its own. @returns whether it ended well */
function show(command, args, env = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: root, env: { ...process.env, ...env }, stdio: 'inherit' });
    child.on('exit', (code) => resolve(code === 0));
  });
}

/** Counts one check that either holds or does not. */
function count(ok, what) {
  total[ok ? 'passed' : 'failed'] += 1;
  if (!ok) say(`FAILED: ${what}`);
}

/**
 * The checks of the code itself, each of which keeps one core busy: two at a time.
 * @param beside other tests that run meanwhile: until they are over there is one check at a time, on what they leave of the machine
 */
async function lint(beside = null) {
  const { checks } = await import('./lib/checks.mjs');
  const left = [...checks];
  let isBeside = beside !== null;
  const one = async () => {
    for (let check = left.shift(); check; check = left.shift()) {
      const whole = [check.command, ...check.args];
      const [command, ...args] = isBeside ? ['nice', '-n', '19', ...whole] : whole;
      count(await show(command, args), check.name);
    }
  };
  const first = one();
  await beside;
  isBeside = false;
  await Promise.all([first, one()]);
}

/** Files that take longest begin first, so that two processes end at about the same time. */
const LONGEST = [
  'supervision',
  'damage',
  'recovery',
  'trials',
  'lantern',
  'calibration',
  'diagnose',
  'blind',
  'suspects',
  'render-film',
  'killed-workers',
  'renders',
];

/** Mocha on the test files of folders, two files at a time: each has its own data. */
async function mocha(folders, env) {
  const folder = mkdtempSync(join(tmpdir(), 'dusting-report-'));
  const report = join(folder, 'report.json');
  const rank = (file) => [...LONGEST, basename(file, '.test.ts')].indexOf(basename(file, '.test.ts'));
  const files = folders
    .flatMap((name) => readdirSync(join(root, 'tests', name)).map((file) => `tests/${name}/${file}`))
    .filter((file) => file.endsWith('.test.ts'))
    .sort((a, b) => rank(a) - rank(b) || a.localeCompare(b));
  const options = ['--config', '.mocharc.json', '--parallel', '--jobs', '2'];
  const reporter = ['--reporter', join(root, 'scripts/lib/counting-reporter.cjs'), '--reporter-option', `output=${report}`]; // prettier-ignore
  const ok = await show('npx', ['mocha', ...options, ...reporter, ...files], env);
  add(report, ok, `tests of ${folders.join(', ')}`);
  rmSync(folder, { recursive: true, force: true });
}

async function playwright(env) {
  const folder = mkdtempSync(join(tmpdir(), 'dusting-report-'));
  const report = join(folder, 'report.json');
  const args = ['playwright', 'test', '--config', 'tests/e2e/playwright.config.ts'];
  const ok = await show('npx', args, { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: report });
  add(report, ok, 'interface tests', ({ stats }) => ({
    passed: stats.expected,
    failed: stats.unexpected + stats.flaky,
  }));
  rmSync(folder, { recursive: true, force: true });
}

/** Adds what a report counted; a run that failed without a failed test counts as one failure. */
function add(report, ok, what, read = (json) => json) {
  let found = { passed: 0, failed: 0 };
  try {
    found = read(JSON.parse(readFileSync(report, 'utf8')));
  } catch {
    say(`FAILED: ${what} gave no report`);
  }
  total.passed += found.passed;
  total.failed += found.failed || (ok ? 0 : 1);
}

await run(async () => {
  needNode();
  needPackages();
  const postgres = suites.some((s) => s === 'api' || s === 'e2e') ? needPostgres() : null;
  const chromium = suites.includes('e2e') ? needChromium() : null;
  if (suites.includes('unit')) needExrTools();
  if (suites.includes('api')) needProxy();
  if (suites.some((s) => s === 'unit' || s === 'api')) needUnzip();
  if (suites.some((s) => s !== 'lint')) await buildKernels();
  // Tests of the server wait for clocks and for each other, which leaves a third of two cores free.
  const isBeside = suites.includes('lint') && suites.includes('api');
  if (suites.includes('lint') && !isBeside) await lint();
  if (suites.includes('unit')) await mocha(['unit', 'page', 'cli', 'blind'], {});
  if (postgres) {
    const cluster = await temporaryCluster(postgres);
    const leave = () => {
      cluster.stop();
      process.exit(1);
    };
    process.once('SIGINT', leave);
    process.once('SIGTERM', leave);
    try {
      const env = { DUSTING_TEST_DATABASE_URL: cluster.url, DUSTING_TEST_CHROMIUM: chromium ?? '' };
      const { buildIfStale } = await import('./lib/build-all.mjs');
      await buildIfStale();
      const server = suites.includes('api') ? mocha(['api'], env) : null;
      await (isBeside ? lint(server) : server);
      if (suites.includes('e2e')) await playwright(env);
    } finally {
      cluster.stop();
    }
  }
  say(`\n${total.passed} passed, ${total.failed} failed`);
  process.exitCode = total.failed ? 1 : 0;
});
