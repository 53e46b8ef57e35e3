#!/usr/bin/env node
/** `npm run build`: page and server into `dist/`. */
import { needNode, needPackages } from './lib/machine.mjs';
import { run } from './lib/say.mjs';

await run(async () => {
  needNode();
  needPackages();
  const { buildIfStale } = await import('./lib/build-all.mjs');
  await buildIfStale();
});
