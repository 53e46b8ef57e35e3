#!/usr/bin/env node
/** `npm run dev`: server and worker from their source, the page through Vite with hot reload. */
import { join } from 'node:path';
import process from 'node:process';
import { sourceParts } from './lib/application.mjs';
import { buildKernels } from './lib/kernels.mjs';
import { launch } from './lib/launch.mjs';
import { needNode, needPackages, root } from './lib/machine.mjs';
import { run, say } from './lib/say.mjs';

await run(async () => {
  needNode();
  needPackages();
  await buildKernels();
  const port = Number(process.env.DUSTING_PORT || 4600);
  await launch(sourceParts, port, async (host) => {
    const { createServer } = await import('vite');
    const vite = await createServer({
      configFile: join(root, 'vite.config.ts'),
      server: { host, port: port + 1, proxy: { '/api': `http://${host}:${port}` } },
    });
    await vite.listen();
    say(`\nThe page with hot reload is at http://${host}:${port + 1}/   (Ctrl-C stops everything)`);
    // Vite waits for the pages' open connections, which do not end by themselves.
    return { stop: () => void vite.close() };
  });
});
