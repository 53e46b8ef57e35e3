#!/usr/bin/env node
/** `npm start`: from a fresh clone to a running Dusting. */
import process from 'node:process';
import { launch } from './lib/launch.mjs';
import { needNode, needPackages } from './lib/machine.mjs';
import { run, say } from './lib/say.mjs';

await run(async () => {
  needNode();
  needPackages();
  const { buildIfStale } = await import('./lib/build-all.mjs');
  const { builtParts } = await import('./lib/application.mjs');
  await buildIfStale();
  const port = process.env.DUSTING_PORT || 4600;
  await launch(builtParts, port);
  say(`\nDusting is at http://${process.env.DUSTING_HOST || '127.0.0.1'}:${port}/   (Ctrl-C stops it)`);
});
