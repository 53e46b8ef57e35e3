/** Bundles the shell commands with esbuild into `dist/cli`, when something they are made of is newer than what was built. */
import { existsSync, readdirSync, rmSync, statSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './machine.mjs';

const SOURCES = ['core', 'host', 'cli', 'scripts/lib/build-shell.mjs', 'package-lock.json'];
const outdir = join(root, 'dist/cli');
const main = join(outdir, 'main.mjs');

/** @returns {Promise<string>} path of the built commands */
export async function buildShell() {
  const newest = Math.max(...SOURCES.map((source) => newestIn(join(root, source))));
  if (existsSync(main) && statSync(main).mtimeMs > newest) return main;
  // Taken before: what changes while it is built makes it stale again.
  const began = new Date();
  rmSync(outdir, { recursive: true, force: true });
  const { build } = await import('esbuild');
  await build({
    absWorkingDir: root,
    entryPoints: { main: 'cli/main.ts', 'render-thread': 'cli/render-thread.ts' },
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    packages: 'external',
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
  });
  utimesSync(main, began, began);
  return main;
}

/** Files and folders alike, without those that are not ours to read. */
function newestIn(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  let newest = stat.mtimeMs;
  for (const entry of readdirSync(path, { withFileTypes: true }))
    newest = Math.max(newest, entry.isDirectory() ? newestIn(join(path, entry.name)) : statSync(join(path, entry.name)).mtimeMs); // prettier-ignore
  return newest;
}
