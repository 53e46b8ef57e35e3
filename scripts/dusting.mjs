#!/usr/bin/env node
/** `npx dusting …`: Dusting from a shell. What has to be installed first is told on the error stream. */
import { pathToFileURL } from 'node:url';
import { buildShell } from './lib/build-shell.mjs';
import { buildKernels } from './lib/kernels.mjs';
import { needNode, needPackages } from './lib/machine.mjs';
import { run, tellOnErrorStream } from './lib/say.mjs';

await run(async () => {
  tellOnErrorStream();
  needNode();
  needPackages();
  await buildKernels();
  await import(pathToFileURL(await buildShell()));
});
