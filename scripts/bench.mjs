#!/usr/bin/env node
/** `npm run bench`: ratios of speed, with a database of its own. */
import { buildIfStale } from './lib/build-all.mjs';
import { temporaryCluster } from './lib/cluster.mjs';
import { show } from './lib/command.mjs';
import { needNode, needPackages, needPostgres, root } from './lib/machine.mjs';
import { run } from './lib/say.mjs';
import process from 'node:process';

await run(async () => {
  needNode();
  needPackages();
  await buildIfStale();
  const cluster = await temporaryCluster(needPostgres());
  try {
    const env = { ...process.env, DUSTING_TEST_DATABASE_URL: cluster.url };
    const args = ['--import', '@oxc-node/core/register', 'tests/bench/bench.ts', ...process.argv.slice(2)];
    if (!show(process.execPath, args, { cwd: root, env })) process.exitCode = 1;
  } finally {
    cluster.stop();
  }
});
