#!/usr/bin/env node
/** `npx dusting …`: Dusting from a shell. What has to be installed first is told on the error stream. */
import { spawnSync } from 'node:child_process';
import process from 'node:process';
import { fileURLToPath } from 'node:url';
import { buildKernels } from './lib/kernels.mjs';
import { needNode, needPackages } from './lib/machine.mjs';
import { run, tellOnErrorStream } from './lib/say.mjs';

await run(async () => {
  tellOnErrorStream();
  needNode();
  needPackages();
  await buildKernels();
  const register = import.meta.resolve('@oxc-node/core/register', import.meta.url);
  const main = fileURLToPath(new URL('../cli/main.ts', import.meta.url));
  const { status } = spawnSync(process.execPath, ['--import', register, main, ...process.argv.slice(2)], {
    stdio: 'inherit',
  });
  process.exitCode = status ?? 1;
});
