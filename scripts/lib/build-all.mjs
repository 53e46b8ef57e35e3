/** Builds the page with Vite and the server's entries with esbuild, when a source is newer than the build. */
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bundle } from './bundle.mjs';
import { buildKernels } from './kernels.mjs';
import { root } from './machine.mjs';
import { say } from './say.mjs';

const SOURCES = ['core', 'host', 'server', 'web', 'docs', 'demo', 'scripts', 'package-lock.json', 'vite.config.ts'];
const ENTRIES = {
  main: 'server/main.ts',
  worker: 'server/worker.ts',
  'render-thread': 'server/render/render-thread.ts',
  'apart-process': 'server/apart/process.ts',
  'apart-watch': 'server/apart/watch.ts',
  seed: 'demo/seed.ts',
};
const stamp = join(root, 'dist', 'sources');

export async function buildIfStale() {
  const sources = fingerprint();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === sources) return;
  say('Building …');
  for (const part of ['server', 'web']) rmSync(join(root, 'dist', part), { recursive: true, force: true });
  await buildKernels();
  await buildServer();
  const { build } = await import('vite');
  await build({ configFile: join(root, 'vite.config.ts'), logLevel: 'warn' });
  writeFileSync(stamp, sources);
}

async function buildServer() {
  const outdir = join(root, 'dist/server');
  mkdirSync(outdir, { recursive: true });
  await bundle(ENTRIES, outdir);
  cpSync(join(root, 'server/db/migrations'), join(outdir, 'migrations'), { recursive: true });
}

function fingerprint() {
  const hash = createHash('sha256');
  const add = (path) => hash.update(path).update(readFileSync(join(root, path)));
  for (const source of SOURCES) {
    if (/\.\w+$/.test(source)) add(source);
    else
      for (const entry of readdirSync(join(root, source), { recursive: true, withFileTypes: true }))
        if (entry.isFile()) add(join(entry.parentPath, entry.name).slice(root.length));
  }
  return hash.digest('hex');
}
